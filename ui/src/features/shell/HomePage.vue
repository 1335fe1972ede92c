<script setup lang="ts">
/** The quilts that are here; goes straight on where there is only one and she came fresh. */
import { computed, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, Problem, type Unit, type Views } from '../../api/client'
import { useExports } from '../../state/exports'
import NewQuilt from './NewQuilt.vue'

const router = useRouter()
const exports = useExports()
const quilts = ref<Views['Listed'][]>()
const copies = ref<Views['CopiesView']>()
const trouble = ref('')
const beginning = ref(false)
const unit = ref<Unit>('in')
const wrong = ref<{ field: string; message: string }>()

const open = (id: string) => router.push({ name: 'fills', params: { quilt: id } })
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
    trouble.value = error instanceof Problem ? error.message : 'Something went wrong in Kenzet.'
  }
})
async function add(body: Partial<Views['NewQuilts']>) {
  try {
    quilts.value = (await api.addQuilts(body)).quilts
    trouble.value = ''
    if (quilts.value[0]) await open(quilts.value[0].id)
  } catch (error) {
    trouble.value = error instanceof Problem ? error.message : 'Something went wrong in Kenzet.'
  }
}
async function begin(wish: Views['NewQuilts']['wish']) {
  try {
    const [newest] = (await api.addQuilts({ wish, unit: unit.value })).quilts
    wrong.value = undefined
    if (newest) await router.push({ name: 'top', params: { quilt: newest.id }, query: { page: 'blocks' } })
  } catch (error) {
    if (error instanceof Problem) wrong.value = { field: error.field.replace('wish.', ''), message: error.message }
  }
}
const gone = ref<{ id: string; name: string }>()
const atHand = computed(() => (quilts.value ?? []).filter((quilt) => !quilt.put_away))
const putAway = computed(() => (quilts.value ?? []).filter((quilt) => quilt.put_away))
async function told(call: Promise<Views['Home']>): Promise<boolean> {
  try {
    quilts.value = (await call).quilts
    trouble.value = ''
    return true
  } catch (error) {
    trouble.value = error instanceof Problem ? error.message : 'Something went wrong in Kenzet.'
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
    trouble.value = 'That file is not a quilt plan. Choose a plan file that Kenzet saved.'
  }
}
</script>

<template>
  <section class="home">
    <h2>Your quilts</h2>
    <p v-if="trouble" class="card madder" role="alert">{{ trouble }}</p>
    <p v-if="gone" class="card tip" role="status">“{{ gone.name }}” is deleted. <v-btn class="plain" data-testid="bring-back" @click="bringBack()">Undo</v-btn></p>
    <ul v-if="atHand.length">
      <li v-for="quilt in atHand" :key="quilt.id">
        <button class="open" @click="open(quilt.id)">{{ quilt.name }}</button>
        <span class="more">
          <v-btn class="plain" :aria-label="`Copy ${quilt.name}`" @click="told(api.copy(quilt.id))">Copy</v-btn>
          <a class="plain" :href="exports.href('plan-json', { quilt: quilt.id })" :aria-label="`Keep ${quilt.name} as a plan file`">{{ exports.label('plan-json') }}</a>
          <v-btn class="plain" :aria-label="`Archive ${quilt.name}`" @click="told(api.setState(quilt.id, 'put away'))">Archive</v-btn>
          <v-btn class="plain" :aria-label="`Delete ${quilt.name}`" @click="remove(quilt)">Delete</v-btn>
        </span>
      </li>
    </ul>
    <p v-else-if="quilts && !quilts.length">No quilts yet. Start from a finished example and change anything: every change can be undone.</p>
    <div v-if="quilts" class="do">
      <v-btn v-if="!quilts.length" color="primary" variant="flat" size="large" @click="add({})">Add the example quilts</v-btn>
      <v-btn color="primary" :variant="quilts.length ? 'flat' : 'outlined'" size="large" data-testid="new-quilt" @click="beginning = !beginning">Begin a quilt</v-btn>
      <label class="chip">Open a plan file<input type="file" accept="application/json,.json" class="sr" @change="file" /></label>
    </div>
    <details v-if="putAway.length">
      <summary>{{ putAway.length }} archived</summary>
      <ul>
        <li v-for="quilt in putAway" :key="quilt.id">
          <button class="open" @click="open(quilt.id)">{{ quilt.name }}</button>
          <span class="more">
            <v-btn class="plain" :aria-label="`Restore ${quilt.name}`" @click="told(api.setState(quilt.id, 'at hand'))">Restore</v-btn>
            <v-btn class="plain" :aria-label="`Delete ${quilt.name}`" @click="remove(quilt)">Delete</v-btn>
          </span>
        </li>
      </ul>
    </details>
    <p v-if="copies" class="quiet" data-testid="backup">
      <a class="plain" href="/api/backup.zip" download>Back up everything</a>
      · <a class="plain" href="/api/files.zip" download title="Plans, tables and photos that other programs can open">Export everything as open files</a>
      <template v-if="copies.folder"> · {{ copies.last ? `Last automatic backup: ${copies.last}` : 'No automatic backup yet' }}; one a day, kept for {{ copies.days }} days in {{ copies.folder }}.</template>
    </p>
    <NewQuilt v-if="beginning" :unit="unit" :wrong="wrong" @begin="begin" @unit="setUnit" />
  </section>
</template>

<style scoped>
.home { max-width: 680px; margin: 40px auto; max-height: 100%; overflow-y: auto; padding: 0 24px; display: grid; gap: 18px; }
ul { list-style: none; display: grid; gap: 10px; }
li { display: flex; gap: 12px; align-items: center; }
.open { flex: 1; text-align: left; padding: 16px 20px; border: 1px solid var(--rule); border-radius: 10px; background: var(--paper); font-size: 17px; cursor: pointer; }
.open:hover { border-color: var(--indigo); }
.more { display: flex; gap: 8px; flex: none; }
summary { cursor: pointer; color: var(--soft); margin-bottom: 8px; }
.do { display: flex; gap: 14px; align-items: center; }
</style>
