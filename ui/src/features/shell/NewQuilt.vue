<script setup lang="ts">
/** The choices for a new quilt, with a live drawing; all of them can be changed later. */
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { api, Problem, type Unit, type Views } from '../../api/client'
import WordsText from '../../parts/WordsText.vue'
import PatchPicture from '../../parts/PatchPicture.vue'
import { tr } from '../../texts'

const props = defineProps<{ unit: Unit; wrong?: { field: string; message: string }; first?: string }>()
type Wish = NonNullable<Views['NewQuilts']['wish']>

const emit = defineEmits<{ begin: [wish: Wish]; unit: [unit: Unit]; close: [] }>()

const USES = ['bed', 'lap', 'baby', 'wall', 'runner', 'garment or bag', 'practice piece']
const KINDS = [
  ['rows', tr('straight set'), 'M4 4h10v10H4zM17 4h10v10H17zM30 4h10v10H30zM4 17h10v10H4zM17 17h10v10H17zM30 17h10v10H30z'],
  ['on point', tr('on point'), 'M12 2l8 8-8 8-8-8zM32 2l8 8-8 8-8-8zM22 12l8 8-8 8-8-8zM12 22l5 6M32 22l-5 6'],
  ['strips', tr('strips'), 'M4 2h8v28H4zM12 2h8v28h-8zM20 2h8v28h-8zM28 2h8v28h-8z'],
  ['medallion', tr('medallion'), 'M3 2h38v28H3zM9 7h26v18H9zM15 12h14v8H15z'],
  ['single block', tr('one block'), 'M9 2h28v28H9zM9 2l28 28M37 2L9 30'],
] as const
const COLOURS = ['#e8e0d0', '#6f8fa6', '#c98a6b', '#9aa67c', '#3f4f63']
const name = ref('')
const use = ref(props.first === 'single block' ? 'practice piece' : 'lap')
const kind = ref<string>(props.first ?? 'rows')
const by = ref<'block' | 'size'>('block')
const block = ref('')
const width = ref('')
const height = ref('')
const border = ref('')
const columns = ref(3)
const rows = ref(4)
const chosen = ref(tr('Plain'))
const tiles = shallowRef<Views['TileView'][]>([])
const draft = shallowRef<Views['DraftView']>()
const refused = ref<{ field: string; message: string }>()

const many = computed(() => !['medallion', 'single block'].includes(kind.value))
const usual = computed(() => (props.unit === 'mm' ? '300' : '12'))
const wish = computed(() => {
  const sized = by.value === 'block' ? { block: block.value.trim() || usual.value, height: kind.value === 'strips' ? height.value.trim() || null : null } : { width: width.value.trim() || null, height: height.value.trim() || null }
  return { name: name.value.trim() || tr('My quilt'), use: use.value, arrangement: kind.value, columns: columns.value, rows: rows.value, first: chosen.value, border: border.value.trim() || null, ...sized } as unknown as Wish
})
/** an error is shown at its field after leaving it, or on submit; the drawing stays */
const FIELDS = ['name', 'block', 'width', 'height', 'border', 'columns', 'rows']
const trouble = computed(() => props.wrong ?? refused.value)
const wrongAt = (field: string) => (trouble.value?.field === field ? trouble.value.message : '')
const elsewhere = computed(() => (trouble.value && !FIELDS.includes(trouble.value.field) ? trouble.value.message : ''))
const waits = computed(() => (by.value === 'size' && !(width.value.trim() && height.value.trim())) || (kind.value === 'strips' && !height.value.trim()))

let asked = 0
async function look() {
  const mine = ++asked
  if (waits.value) return
  try {
    const found = await api.draft({ wish: wish.value, unit: props.unit })
    if (mine !== asked) return
    draft.value = found
    refused.value = undefined
  } catch (error) {
    if (!(error instanceof Problem)) throw error
    if (mine === asked) refused.value = { field: error.field.replace('wish.', ''), message: error.message }
  }
}
watch([wish, () => props.unit], () => void look(), { immediate: true })
onMounted(async () => {
  try {
    tiles.value = (await api.blocks()).tiles
  } catch (error) {
    if (!(error instanceof Problem)) throw error // without them a quilt begins with plain blocks
  }
})
const colours = (tile: Views['TileView']) => Object.fromEntries(tile.roles.map((_, k) => [`role-${k}`, COLOURS[k % COLOURS.length]!]))
const picture = computed(() => draft.value && `data:image/svg+xml;charset=utf-8,${encodeURIComponent(draft.value.picture)}`)
</script>

<template>
  <form class="new" @submit.prevent="emit('begin', wish)">
    <div class="fields">
      <div class="row">
        <label class="name">{{ tr('Name') }}<input v-model="name" class="text" :placeholder="tr('My quilt')" maxlength="80" data-testid="new-name" /></label>
        <span class="chips units"><v-btn v-for="one in (['in', 'mm'] as const)" :key="one" class="chip" :aria-pressed="unit === one" @click="emit('unit', one)">{{ one === 'in' ? tr('inches') : 'mm' }}</v-btn></span>
      </div>
      <p v-if="wrongAt('name')" class="wrong" role="alert">{{ wrongAt('name') }}</p>
      <div class="chips" role="group" :aria-label="tr('What it is for')"><v-btn v-for="one in USES" :key="one" class="chip" :aria-pressed="use === one" @click="use = one">{{ tr(one) }}</v-btn></div>
      <div class="kinds" role="group" :aria-label="tr('How the blocks are set')">
        <button v-for="[key, label, path] in KINDS" :key="key" type="button" :aria-pressed="kind === key" :data-testid="`kind-${key.replace(' ', '-')}`" @click="kind = key">
          <svg width="44" height="32" aria-hidden="true"><path :d="path" fill="none" stroke="currentColor" stroke-width="1.6" stroke-linejoin="round" /></svg>{{ label }}
        </button>
      </div>
      <div class="row">
        <span class="chips">
          <v-btn class="chip" :aria-pressed="by === 'block'" @click="by = 'block'">{{ kind === 'strips' ? tr('By the width of a strip') : tr('By the size of a block') }}</v-btn>
          <v-btn class="chip" :aria-pressed="by === 'size'" data-testid="by-size" @click="by = 'size'">{{ tr('By its finished size') }}</v-btn>
        </span>
      </div>
      <div class="row">
        <label v-if="by === 'block'">{{ kind === 'strips' ? tr('Width of a strip') : tr('A block, finished') }}<input v-model="block" class="text short" :placeholder="usual" :aria-invalid="!!wrongAt('block')" data-testid="new-block-size" /></label>
        <label v-if="by === 'size'">{{ tr('Finished width') }}<input v-model="width" class="text short" :aria-invalid="!!wrongAt('width')" data-testid="new-width" /></label>
        <label v-if="by === 'size' || kind === 'strips'">{{ tr('Finished height') }}<input v-model="height" class="text short" :aria-invalid="!!wrongAt('height')" data-testid="new-height" /></label>
        <label v-if="many">{{ kind === 'strips' ? tr('Strips') : tr('Blocks across') }}<input v-model.number="columns" class="text number" type="number" min="1" max="60" data-testid="new-columns" /></label>
        <label v-if="many && kind !== 'strips'">{{ kind === 'on point' ? tr('Long rows') : tr('Blocks down') }}<input v-model.number="rows" class="text number" type="number" min="1" max="60" data-testid="new-rows" /></label>
        <label>{{ tr('Border') }}<input v-model="border" class="text number" :placeholder="tr('none')" :aria-invalid="!!wrongAt('border')" data-testid="new-border" /></label>
      </div>
      <p v-for="field in FIELDS.slice(1)" v-show="wrongAt(field)" :key="field" class="wrong" role="alert">{{ wrongAt(field) }}</p>
      <p v-if="elsewhere" class="wrong" role="alert">{{ elsewhere }}</p>
      <fieldset v-if="kind !== 'strips' && tiles.length" class="first">
        <legend class="label">{{ tr('The first block') }}</legend>
        <div class="tiles" role="group" :aria-label="tr('The first block')">
          <button v-for="tile in tiles" :key="tile.name" type="button" :aria-pressed="chosen === tile.name" :title="tile.help" :data-testid="`first-${tile.name}`" @click="chosen = tile.name">
            <PatchPicture :patches="tile.patches" :width="100" :height="100" :colours="colours(tile)" :size="44" /><span>{{ tile.name }}</span>
          </button>
        </div>
      </fieldset>
    </div>
    <div class="draft">
      <img v-if="picture" :src="picture" :alt="tr('The quilt as you describe it')" data-testid="draft" />
      <p class="size" data-testid="draft-size"><template v-if="draft"><b><WordsText :words="draft.size" /></b> {{ tr('finished') }}</template><template v-else>{{ tr('Give its size to see it.') }}</template></p>
      <v-btn color="primary" variant="flat" size="large" type="submit" data-testid="begin">{{ tr('Start this quilt') }}</v-btn>
      <v-btn class="plain" @click="emit('close')">{{ tr('Back to your quilts') }}</v-btn>
    </div>
  </form>
</template>

<style scoped>
.new { display: grid; grid-template-columns: minmax(0, 1fr) minmax(280px, 42%); gap: 28px; align-items: start; }
.fields { display: grid; gap: 12px; }
.draft { display: grid; gap: 10px; justify-items: center; position: sticky; top: 0; }
.draft img { max-width: 100%; height: min(56vh, 470px); object-fit: contain; filter: drop-shadow(0 2px 6px rgb(30 39 51 / .25)); }
.size { font-size: 18px; }
.draft .v-btn[type='submit'] { width: 100%; }
label { display: grid; gap: 3px; font-size: 14px; }
.name { flex: 1; }
.row { display: flex; gap: 14px; align-items: end; flex-wrap: wrap; }
.short { width: 110px; } .number { width: 92px; }
.kinds { display: grid; grid-template-columns: repeat(5, 1fr); gap: 8px; }
.kinds button { display: grid; justify-items: center; gap: 4px; padding: 8px 2px; border: 1px solid var(--rule); border-radius: 8px; background: var(--field); cursor: pointer; font-size: 13px; color: var(--soft); }
.kinds button[aria-pressed='true'], .tiles button[aria-pressed='true'] { border-color: var(--indigo); background: var(--indigo-wash); color: var(--indigo); font-weight: 700; }
.first { border: 0; padding: 0; margin: 0; min-width: 0; }
.tiles { display: grid; grid-template-columns: repeat(auto-fill, minmax(88px, 1fr)); gap: 7px; overflow-y: auto; max-height: 224px; padding: 4px 2px 8px; }
.tiles button { display: grid; min-width: 0; justify-items: center; align-content: start; gap: 3px; padding: 6px 2px; border: 1px solid var(--rule); border-radius: 8px; background: var(--field); cursor: pointer; font-size: 13px; line-height: 1.2; }
@media (max-width: 900px) {
  .new { grid-template-columns: minmax(0, 1fr); }
  .draft { position: static; }
  .draft img { height: 220px; }
  .kinds { grid-template-columns: repeat(auto-fit, minmax(96px, 1fr)); }
}
</style>
