<script setup lang="ts">
/** The chosen swatch: observations, figures, and another swatch's figures beside them. If none is chosen, what the book is for. */
import { computed, nextTick, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, type Views } from '../../api/client'
import FieldControl from '../../parts/FieldControl.vue'
import FigureRows from '../../parts/FigureRows.vue'
import LengthField from '../../parts/LengthField.vue'
import WordsText from '../../parts/WordsText.vue'
import { useExports } from '../../state/exports'
import { useQuilt } from '../../state/quilt'
import { useSwatches } from '../../state/swatches'
import { useZone } from '../../state/zone'
import { tr } from '../../texts'

const quilt = useQuilt()
const exports = useExports()
const router = useRouter()
const book = useSwatches()
const zone = useZone()
const sure = ref(false)
const name = ref('')
const notes = ref('')
const top = ref<HTMLElement>()
const one = computed(() => book.chosen)
watch(() => one.value?.id, () => {
  sure.value = false
  name.value = one.value?.name ?? ''
  notes.value = one.value?.notes ?? ''
  void nextTick(() => top.value?.scrollIntoView?.({ block: 'end' }))
}, { immediate: true })
const error = (field: string) => (book.wrong?.field === field ? book.wrong.message : undefined)
const others = computed(() => (book.list ?? []).filter((other) => other.id !== book.key))
const compared = computed(() => one.value?.rows.map((row, k) => ({ label: row.label, mine: row.words, its: book.other?.rows[k]?.words ?? [] })) ?? [])
function file(event: Event, take: (file: File) => unknown) {
  const input = event.target as HTMLInputElement
  const found = input.files?.[0]
  input.value = ''
  if (found) void take(found)
}
/** an optional answer is removed by pressing it again */
const choose = (field: Views['FieldView'], value: unknown) => book.set(field.name, field.name !== 'washed' && field.text === value ? '' : value)
const target = ref('')
const zones = computed(() => quilt.zones.filter((each) => !each.on_top))
watch(zones, (now) => { if (!now.some((each) => each.key === target.value)) target.value = (now.find((each) => !each.drawings.length && !each.left_open) ?? now[0])?.key ?? '' }, { immediate: true })
async function use() {
  if (!one.value || !target.value || !(await book.use(one.value, target.value))) return
  await book.close()
  void zone.choose(target.value)
  await router.push({ name: 'fills', params: { quilt: quilt.id } })
}
</script>

<template>
  <section v-if="one" class="stack" data-testid="swatch-card">
    <div ref="top" class="between"><h2>{{ one.name }}</h2><v-btn class="plain" data-testid="swatch-all" @click="book.choose(one.id)">{{ tr('All swatches') }}</v-btn></div>
    <p class="quiet">{{ one.of }}, {{ one.day }}</p>
    <label class="between"><span class="label">{{ tr('Name') }}</span><input v-model="name" class="text" maxlength="80" :aria-invalid="!!error('name')" data-testid="swatch-rename" @input="book.type('name', name)" @blur="book.settle()"></label>
    <p v-if="error('name')" class="wrong" role="alert">{{ error('name') }}</p>
    <h3>{{ tr('What you found') }}</h3>
    <div class="fields">
      <template v-for="field in one.fields.filter((each) => each.used)" :key="one.id + field.name">
        <LengthField v-if="field.control === 'length'" :field="field" :error="error(field.name)" :unit="quilt.unit" late compact @entered="(text) => book.set(field.name, text || null)" />
        <FieldControl v-else :field="field" :error="error(field.name)" :unit="quilt.unit" :picked="{}" @set="(value) => choose(field, value)" />
      </template>
    </div>
    <textarea v-model="notes" rows="3" maxlength="2000" :placeholder="tr('Notes: needle, tension, what to do better')" :aria-label="tr('Notes')" data-testid="swatch-notes" @input="book.type('notes', notes)" @blur="book.settle()" />
    <p v-if="error('notes')" class="wrong" role="alert">{{ error('notes') }}</p>
    <ul v-if="one.photos.length" class="photos"><li v-for="photo in one.photos" :key="photo"><img :src="api.photoUrl(photo)" :alt="tr('Your picture of {name}', { name: one.name })"><v-btn class="plain" @click="book.dropPhoto(photo)">{{ tr('Remove') }}</v-btn></li></ul>
    <label v-if="one.photos.length < 6" class="chip add">{{ tr('Add a picture') }}<input type="file" accept="image/jpeg,image/png" class="sr" data-testid="swatch-photo" @change="file($event, book.addPhoto)"></label>
    <p v-if="error('photos') || error('file')" class="wrong" role="alert">{{ error('photos') ?? error('file') }}</p>
    <h3>{{ tr('Sewn with') }}</h3>
    <label v-if="others.length" class="beside">{{ tr('Beside') }} <select v-model="book.beside" data-testid="swatch-beside"><option value="">{{ tr('no other swatch') }}</option><option v-for="each in others" :key="each.id" :value="each.id">{{ each.name }}</option></select></label>
    <template v-if="book.other">
      <div class="pair"><img :src="api.swatchUrl(one.id)" alt=""><img :src="api.swatchUrl(book.other.id)" alt=""></div>
      <table><thead><tr><td /><th>{{ one.name }}</th><th>{{ book.other.name }}</th></tr></thead><tbody><tr v-for="row in compared" :key="String(row.label[0])"><th scope="row"><WordsText :words="row.label" /></th><td><WordsText :words="row.mine" /></td><td><WordsText :words="row.its" /></td></tr></tbody></table>
    </template>
    <FigureRows v-else :rows="one.rows" />
    <h3>{{ tr('Sew it in this quilt') }}</h3>
    <div class="chips use">
      <select v-model="target" :aria-label="tr('Zone to fill')" data-testid="swatch-target"><option v-for="each in zones" :key="each.key" :value="each.key">{{ each.name }}</option></select>
      <v-btn class="chip" :disabled="!target" data-testid="swatch-use" @click="use()">{{ tr('Use its fill there') }}</v-btn>
    </div>
    <p v-if="error('use')" class="wrong" role="alert">{{ error('use') }}</p>
    <p v-if="sure">{{ tr('Delete this swatch?') }} <v-btn class="plain" data-testid="swatch-out-sure" @click="book.takeOut(one.id)">{{ tr('Delete it') }}</v-btn> <v-btn class="plain" @click="sure = false">{{ tr('No') }}</v-btn></p>
    <v-btn v-else class="plain out" data-testid="swatch-out" @click="sure = true">{{ tr('Delete this swatch …') }}</v-btn>
  </section>
  <section v-else class="stack">
    <h2 ref="top">{{ tr('Swatch book') }}</h2>
    <p>{{ tr('Your test pieces from all quilts. Choose one to say how it feels, how high it stands, what the wash did.') }}</p>
    <p class="quiet">{{ tr('Your measurements are combined with the batting’s settings: see “What it teaches” in the log. The relief and the words for firmness then follow your own swatches.') }}</p>
    <p class="links">
      <a v-for="key in ['swatches-pdf', 'swatches-json']" :key="key" class="plain" :href="exports.href(key)" :data-testid="key">{{ exports.label(key) }}</a>
      <label class="plain">{{ tr('Bring swatches from a file') }}<input type="file" accept=".json,application/json" class="sr" data-testid="swatch-bring" @change="file($event, book.bring)"></label>
    </p>
  </section>
</template>

<style scoped>
.fields { display: grid; gap: 12px; }
textarea { width: 100%; border: 1px solid var(--rule); border-radius: 8px; padding: 6px 10px; background: var(--field); color: inherit; font: inherit; font-size: 14px; resize: vertical; }
.photos { list-style: none; margin: 0; padding: 0; display: flex; flex-wrap: wrap; gap: 8px; }
.photos img { height: 90px; border-radius: 6px; display: block; }
.add { display: inline-flex; align-items: center; align-self: start; justify-self: start; cursor: pointer; }
.beside { font-size: 14px; }
select { max-width: 230px; border: 1px solid var(--rule); border-radius: 8px; padding: 4px 6px; background: var(--field); color: inherit; font: inherit; }
.pair { display: grid; grid-template-columns: 1fr 1fr; gap: 8px; }
.pair img { width: 100%; aspect-ratio: 4 / 3; object-fit: contain; background: #faf6ee; border-radius: 6px; }
table { border-collapse: collapse; font-size: 13px; width: 100%; table-layout: fixed; }
th { text-align: left; font-weight: 400; color: var(--soft); padding: 4px 6px 4px 0; vertical-align: top; }
tbody th, tbody td { border-top: 1px solid var(--rule); }
td { padding: 4px 6px 4px 0; vertical-align: top; overflow-wrap: anywhere; }
.links { display: flex; flex-wrap: wrap; gap: 4px 16px; margin: 0; }
.links label { cursor: pointer; }
.out { justify-self: start; }
</style>
