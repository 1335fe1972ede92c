<script setup lang="ts">
/** The list of quilts; opens the only one directly at the first visit. */
import { computed, onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, Problem, type Unit, type Views } from '../../api/client'
import { useExports } from '../../state/exports'
import WordsText from '../../parts/WordsText.vue'
import NewQuilt from './NewQuilt.vue'
import { useTour } from './tour'
import { counted, locale, tr } from '../../texts'

const router = useRouter()
const exports = useExports()
const quilts = ref<Views['Listed'][]>()
const copies = ref<Views['CopiesView']>()
const trouble = ref('')
/** the form that is open: by layout, or a single block; a quilt from a photo begins as a block, and its photo is chosen next */
const beginning = ref<'' | 'layout' | 'block' | 'photo'>('')
const BEGINNINGS = [
  ['layout', tr('By its setting'), tr('Straight, on point, strips or a medallion'), 'M4 4h10v10H4zM17 4h10v10H17zM30 4h10v10H30zM4 17h10v10H4zM17 17h10v10H17zM30 17h10v10H30z'],
  ['block', tr('One block'), tr('A single block or a practice piece'), 'M9 2h28v28H9zM9 2l28 28M37 2L9 30'],
  ['photo', tr('From a photo'), tr('Your own top under the plan'), 'M4 8h8l3-4h14l3 4h8v20H4zM22 12a6 6 0 1 1-.1 0z'],
] as const
const MANY = 8
const sought = ref('')
const sorted = ref<'changed' | 'name'>('changed')
const menu = ref('')
const unit = ref<Unit>('in')
const wrong = ref<{ field: string; message: string }>()

const tour = useTour()
function startTour() {
  const example = atHand.value.find((quilt) => quilt.filled) ?? atHand.value[0]
  tour.value = 1
  if (example) void open(example.id)
}
const open = (id: string, station = 'fills') => router.push({ name: station, params: { quilt: id } })
onMounted(async () => {
  void api.copies().then((found) => { copies.value = found }, () => undefined)
  try {
    const home = await api.home()
    quilts.value = home.quilts
    exports.list = home.exports
    unit.value = home.unit
    const fresh = !window.history.state?.back
    if (fresh && quilts.value.length === 1) await router.replace({ name: 'fills', params: { quilt: quilts.value[0]!.id } })
  } catch (error) {
    trouble.value = error instanceof Problem ? error.message : tr('Something went wrong in Kenzet.')
  }
})
async function add(body: Partial<Views['NewQuilts']>) {
  try {
    quilts.value = (await api.addQuilts(body)).quilts
    trouble.value = ''
    if (quilts.value[0]) await open(quilts.value[0].id)
  } catch (error) {
    trouble.value = error instanceof Problem ? error.message : tr('Something went wrong in Kenzet.')
  }
}
function close() {
  beginning.value = ''
  wrong.value = undefined
}
async function begin(wish: Views['NewQuilts']['wish']) {
  try {
    const [newest] = (await api.addQuilts({ wish, unit: unit.value })).quilts
    wrong.value = undefined
    if (newest) await router.push({ name: 'top', params: { quilt: newest.id }, query: { page: beginning.value === 'photo' ? 'photo' : 'blocks' } })
  } catch (error) {
    if (error instanceof Problem) wrong.value = { field: error.field.replace('wish.', ''), message: error.message }
  }
}
const gone = ref<{ id: string; name: string }>()
const atHand = computed(() => (quilts.value ?? []).filter((quilt) => !quilt.put_away))
const shown = computed(() => {
  const found = atHand.value.filter((quilt) => quilt.name.toLowerCase().includes(sought.value.trim().toLowerCase()))
  return sorted.value === 'name' ? [...found].sort((one, other) => one.name.localeCompare(other.name)) : found
})
const DAY = 86_400
/** "today", "3 days ago", "12 March" */
function since(seconds: number): string {
  const days = Math.floor(Date.now() / 1000 / DAY) - Math.floor(seconds / DAY)
  if (days < 1) return tr('today')
  if (days < 14) return counted(days, 'yesterday', '{count} days ago')
  return new Date(1000 * seconds).toLocaleDateString(locale(), { day: 'numeric', month: 'long' })
}
/** for quilts being sewn: loaded a little later, so that the list appears at once */
const sewn = ref<Record<string, Views['ProgressView']>>({})
watch(quilts, (list) => {
  for (const quilt of list ?? []) {
    if (quilt.sewn && !quilt.put_away && !sewn.value[quilt.id]) void api.progress(quilt.id).then((found) => { sewn.value = { ...sewn.value, [quilt.id]: found } }, () => undefined)
  }
})
const far = (quilt: Views['Listed']) => (sewn.value[quilt.id] ? tr('{sewn} sewn', { sewn: sewn.value[quilt.id]!.sewn }) : !quilt.zones ? tr('No zones yet') : quilt.sewn ? tr('Sewing begun') : quilt.filled < quilt.zones ? counted(quilt.zones, '{filled} of one zone filled', '{filled} of {count} zones filled', { filled: quilt.filled }) : tr('Planned'))
const putAway = computed(() => (quilts.value ?? []).filter((quilt) => quilt.put_away))
async function told(call: Promise<Views['Home']>): Promise<boolean> {
  try {
    quilts.value = (await call).quilts
    trouble.value = ''
    return true
  } catch (error) {
    trouble.value = error instanceof Problem ? error.message : tr('Something went wrong in Kenzet.')
    return false
  }
}
async function remove(quilt: Views['Listed']) {
  if (await told(api.setState(quilt.id, 'deleted'))) gone.value = { id: quilt.id, name: quilt.name }
}
async function bringBack() {
  if (gone.value && (await told(api.setState(gone.value.id, 'at hand')))) gone.value = undefined
}
async function setUnit(chosen: Unit) {
  unit.value = chosen
  await api.setUnit(chosen)
}
async function file(event: Event) {
  const input = event.target as HTMLInputElement
  const text = await input.files?.[0]?.text()
  input.value = ''
  if (text === undefined) return
  try {
    await add({ plan: JSON.parse(text) })
  } catch {
    trouble.value = tr('That file is not a quilt plan. Choose a plan file that Kenzet saved.')
  }
}
</script>

<template>
  <section class="home">
    <div class="between top">
      <h1>{{ beginning ? tr('A new quilt') : tr('Your quilts') }}</h1>
      <div v-if="!beginning && atHand.length > MANY" class="find">
        <input v-model="sought" class="text" :placeholder="tr('Search by name')" :aria-label="tr('Search by name')" data-testid="search" />
        <select v-model="sorted" :aria-label="tr('Sort')" data-testid="sort"><option value="changed">{{ tr('Last worked on') }}</option><option value="name">{{ tr('Name') }}</option></select>
      </div>
    </div>
    <p v-if="trouble" class="card madder" role="alert">{{ trouble }}</p>
    <p v-if="gone" class="card tip" role="status">{{ tr('“{name}” is deleted.', { name: gone.name }) }} <v-btn class="plain" data-testid="bring-back" @click="bringBack()">{{ tr('Undo') }}</v-btn></p>
    <NewQuilt v-if="beginning" :key="beginning" :unit="unit" :wrong="wrong" :first="beginning === 'layout' ? 'rows' : 'single block'" @begin="begin" @unit="setUnit" @close="close" />
    <template v-else>
    <div v-if="tour === 0 && shown.length && !sought" class="card tip first" data-testid="tour-offer">
      <p><b>{{ tr('New here?') }}</b> {{ tr('Six short steps on an example quilt show you the work, from a zone to the machine.') }}</p>
      <div class="chips">
        <v-btn class="chip" data-testid="tour-begin" @click="startTour()">{{ tr('Show me') }}</v-btn>
        <v-btn class="plain" data-testid="tour-no" @click="tour = -1">{{ tr('No, thank you') }}</v-btn>
      </div>
    </div>
    <ul v-if="shown.length" class="cards">
      <li v-for="quilt in shown" :key="quilt.id">
        <button class="picture" tabindex="-1" aria-hidden="true" @click="open(quilt.id)"><img :src="quilt.filled ? `/api/quilts/${quilt.id}/relief.jpg?long=420&revision=${quilt.revision}` : `/api/quilts/${quilt.id}/picture.svg?revision=${quilt.revision}`" alt="" loading="lazy" /></button>
        <button class="open" @click="open(quilt.id)">{{ quilt.name }}</button>
        <p class="quiet"><WordsText :words="quilt.size" /> · {{ far(quilt) }} · {{ since(quilt.changed) }}<span v-if="sewn[quilt.id]?.next" class="coming" :data-testid="`next-${quilt.id}`">{{ tr('Next: {next}', { next: sewn[quilt.id]!.next }) }}</span></p>
        <div class="between">
          <v-btn color="primary" variant="flat" :data-testid="`go-${quilt.id}`" :aria-label="`${quilt.next_says}: ${quilt.name}`" @click="open(quilt.id, quilt.next)">{{ quilt.next_says }}</v-btn>
          <v-btn class="plain" :aria-expanded="menu === quilt.id" :aria-label="tr('More for {name}', { name: quilt.name })" @click="menu = menu === quilt.id ? '' : quilt.id">{{ tr('More') }}</v-btn>
        </div>
        <div v-if="menu === quilt.id" class="more">
          <v-btn class="plain" :aria-label="tr('Copy {name}', { name: quilt.name })" @click="told(api.copy(quilt.id))">{{ tr('Copy') }}</v-btn>
          <a class="plain" :href="exports.href('plan-json', { quilt: quilt.id })" :aria-label="tr('Save {name} as a plan file', { name: quilt.name })">{{ exports.label('plan-json') }}</a>
          <v-btn class="plain" :aria-label="tr('Archive {name}', { name: quilt.name })" @click="told(api.setState(quilt.id, 'put away'))">{{ tr('Archive') }}</v-btn>
          <v-btn class="plain" :aria-label="tr('Delete {name}', { name: quilt.name })" @click="remove(quilt)">{{ tr('Delete') }}</v-btn>
        </div>
      </li>
    </ul>
    <p v-else-if="sought" class="quiet">{{ tr('No quilt has “{sought}” in its name.', { sought }) }}</p>
    <p v-else-if="quilts && !quilts.length">{{ tr('No quilts yet. Start from a finished example and change anything: every change can be undone.') }}</p>
    <v-btn v-if="quilts && !quilts.length" class="start" color="primary" variant="flat" size="large" @click="add({})">{{ tr('Add the example quilts') }}</v-btn>
    <template v-if="quilts">
      <h2>{{ tr('Begin a quilt') }}</h2>
      <div class="begins">
        <button v-for="[key, label, says, path] in BEGINNINGS" :key="key" :data-testid="key === 'layout' ? 'new-quilt' : `new-from-${key}`" @click="beginning = key">
          <svg width="44" height="32" aria-hidden="true"><path :d="path" fill="none" stroke="currentColor" stroke-width="1.6" stroke-linejoin="round" /></svg>
          <b>{{ label }}</b><span class="quiet">{{ says }}</span>
        </button>
      </div>
    </template>
    <details v-if="putAway.length">
      <summary>{{ tr('{putaway} archived', { putaway: putAway.length }) }}</summary>
      <ul class="archived">
        <li v-for="quilt in putAway" :key="quilt.id">
          <button class="open" @click="open(quilt.id)">{{ quilt.name }}</button>
          <v-btn class="plain" :aria-label="tr('Restore {name}', { name: quilt.name })" @click="told(api.setState(quilt.id, 'at hand'))">{{ tr('Restore') }}</v-btn>
          <v-btn class="plain" :aria-label="tr('Delete {name}', { name: quilt.name })" @click="remove(quilt)">{{ tr('Delete') }}</v-btn>
        </li>
      </ul>
    </details>
    <footer class="quiet">
      <label class="plain">{{ tr('Open a plan file') }}<input type="file" accept="application/json,.json" class="sr" @change="file" /></label>
      <span v-if="copies" data-testid="backup">
        <a class="plain" href="/api/backup.zip" download>{{ tr('Back up everything') }}</a>
        · <a class="plain" href="/api/files.zip" download :title="tr('Plans, tables and photos that other programs can open')">{{ tr('Export everything as open files') }}</a>
        <template v-if="copies.folder">{{ ' ' + tr('· {last}; one a day, kept for {days} days in {folder}.', { last: copies.last ? tr('Last automatic backup: {last}', { last: copies.last }) : tr('No automatic backup yet'), days: copies.days, folder: copies.folder }) }}</template>
      </span>
    </footer>
    </template>
  </section>
</template>

<style scoped>
.home { max-width: 1080px; margin: 0 auto; height: 100%; overflow-y: auto; padding: 28px 24px 40px; display: grid; gap: 16px; align-content: start; }
.top { min-height: 40px; }
.find { display: flex; gap: 10px; }
ul { list-style: none; margin: 0; padding: 0; }
.cards { display: grid; grid-template-columns: repeat(auto-fill, minmax(290px, 1fr)); gap: 18px; }
.cards li { display: grid; grid-template-rows: auto auto 1fr; gap: 8px; padding: 14px; border: 1px solid var(--rule); border-radius: 12px; background: var(--paper); }
.picture { border: 0; padding: 0; background: none; cursor: pointer; height: 190px; display: grid; place-items: center; }
.picture img { max-width: 100%; max-height: 190px; box-shadow: 0 1px 4px #0003; }
.open { text-align: left; border: 0; padding: 0; background: none; font: 400 20px/1.3 var(--v-font-heading); color: var(--indigo); cursor: pointer; }
.coming { display: block; }
.open:hover { text-decoration: underline; }
.more { display: flex; flex-wrap: wrap; gap: 4px 12px; border-top: 1px solid var(--rule); padding-top: 8px; }
.first { display: flex; flex-wrap: wrap; justify-content: space-between; align-items: center; gap: 8px 20px; font-size: 15px; }
.start { justify-self: start; }
.begins { display: grid; grid-template-columns: repeat(auto-fit, minmax(220px, 1fr)); gap: 12px; }
.begins button { display: grid; grid-template-columns: 52px 1fr; align-items: center; text-align: left; gap: 0 10px; padding: 12px 14px; border: 1px solid var(--rule); border-radius: 10px; background: var(--paper); cursor: pointer; color: inherit; font: inherit; }
.begins svg { grid-row: 1 / 3; color: var(--indigo); }
.begins button:hover { border-color: var(--indigo); }
.begins span { font-size: 14px; }
.archived li { display: flex; gap: 14px; align-items: baseline; padding: 4px 0; }
summary { cursor: pointer; color: var(--soft); }
footer { display: flex; flex-wrap: wrap; gap: 6px 14px; align-items: baseline; font-size: 14.5px; }
</style>
