<script setup lang="ts">
/** A few wishes with which a quilt begins; everything can be changed afterwards. */
import { computed, ref } from 'vue'
import type { Unit, Views } from '../../api/client'

const props = defineProps<{ unit: Unit; wrong?: { field: string; message: string }; first?: string }>()
type Wish = NonNullable<Views['NewQuilts']['wish']>

const emit = defineEmits<{ begin: [wish: Wish]; unit: [unit: Unit] }>()

const USES = ['bed', 'lap', 'baby', 'wall', 'runner', 'garment or bag', 'practice piece']
const KINDS = [
  ['rows', 'rows of blocks', 'M4 4h10v10H4zM17 4h10v10H17zM30 4h10v10H30zM4 17h10v10H4zM17 17h10v10H17zM30 17h10v10H30z'],
  ['on point', 'on point', 'M12 2l8 8-8 8-8-8zM32 2l8 8-8 8-8-8zM22 12l8 8-8 8-8-8zM12 22l5 6M32 22l-5 6'],
  ['medallion', 'medallion', 'M3 2h38v28H3zM9 7h26v18H9zM15 12h14v8H15z'],
  ['strips', 'strips', 'M4 2h8v28H4zM12 2h8v28h-8zM20 2h8v28h-8zM28 2h8v28h-8z'],
  ['single block', 'one block', 'M9 2h28v28H9zM9 2l28 28M37 2L9 30'],
] as const
const name = ref('')
const use = ref(props.first === 'single block' ? 'practice piece' : 'lap')
const kind = ref<string>(props.first ?? 'rows')
const by = ref<'block' | 'size'>('block')
const block = ref('')
const width = ref('')
const height = ref('')
const columns = ref(3)
const rows = ref(4)

const many = computed(() => !['medallion', 'single block'].includes(kind.value))
const usual = computed(() => (props.unit === 'mm' ? '300' : '12'))
const wrongAt = (field: string) => (props.wrong?.field === field ? props.wrong.message : '')
const elsewhere = computed(() => props.wrong && !['name', 'block', 'width', 'height', 'columns', 'rows'].includes(props.wrong.field) ? props.wrong.message : '')
function begin() {
  const sized = by.value === 'block' ? { block: block.value.trim() || usual.value, height: kind.value === 'strips' ? height.value.trim() || null : null } : { width: width.value.trim() || null, height: height.value.trim() || null }
  emit('begin', { name: name.value.trim() || 'My quilt', use: use.value, arrangement: kind.value, columns: columns.value, rows: rows.value, ...sized } as unknown as Wish)
}
</script>

<template>
  <form class="new" @submit.prevent="begin()">
    <label class="name">Name<input v-model="name" class="text" placeholder="My quilt" maxlength="80" data-testid="new-name" /></label>
    <div class="chips" role="group" aria-label="What it is for"><v-btn v-for="one in USES" :key="one" class="chip" :aria-pressed="use === one" @click="use = one">{{ one }}</v-btn></div>
    <div class="kinds" role="group" aria-label="How it is laid out">
      <button v-for="[key, label, path] in KINDS" :key="key" type="button" :aria-pressed="kind === key" :data-testid="`kind-${key.replace(' ', '-')}`" @click="kind = key">
        <svg width="44" height="32" aria-hidden="true"><path :d="path" fill="none" stroke="currentColor" stroke-width="1.6" stroke-linejoin="round" /></svg>{{ label }}
      </button>
    </div>
    <div v-if="many" class="row">
      <label>{{ kind === 'strips' ? 'Strips' : 'Blocks across' }}<input v-model.number="columns" class="text short" type="number" min="1" max="60" data-testid="new-columns" /></label>
      <label v-if="kind !== 'strips'">{{ kind === 'on point' ? 'Long rows' : 'Blocks down' }}<input v-model.number="rows" class="text short" type="number" min="1" max="60" data-testid="new-rows" /></label>
    </div>
    <div class="row">
      <span class="chips">
        <v-btn class="chip" :aria-pressed="by === 'block'" @click="by = 'block'">{{ kind === 'strips' ? 'By the width of a strip' : 'By the size of a block' }}</v-btn>
        <v-btn class="chip" :aria-pressed="by === 'size'" data-testid="by-size" @click="by = 'size'">By its finished size</v-btn>
      </span>
    </div>
    <div class="row">
      <label v-if="by === 'block'">{{ kind === 'strips' ? 'Width of a strip' : 'A block, finished' }}<input v-model="block" class="text short" :placeholder="usual" data-testid="new-block-size" /></label>
      <label v-if="by === 'size'">Finished width<input v-model="width" class="text short" data-testid="new-width" /></label>
      <label v-if="by === 'size' || kind === 'strips'">Finished height<input v-model="height" class="text short" data-testid="new-height" /></label>
      <span class="chips units"><v-btn v-for="one in (['in', 'mm'] as const)" :key="one" class="chip" :aria-pressed="unit === one" @click="emit('unit', one)">{{ one === 'in' ? 'inches' : 'mm' }}</v-btn></span>
    </div>
    <p v-for="field in ['name', 'block', 'width', 'height', 'columns', 'rows']" v-show="wrongAt(field)" :key="field" class="wrong" role="alert">{{ wrongAt(field) }}</p>
    <p v-if="elsewhere" class="wrong" role="alert">{{ elsewhere }}</p>
    <v-btn color="primary" variant="flat" size="large" type="submit" data-testid="begin">Start this quilt</v-btn>
  </form>
</template>

<style scoped>
.new { display: grid; gap: 14px; padding: 18px 20px; border: 1px solid var(--rule); border-radius: 12px; background: var(--paper); }
label { display: grid; gap: 3px; font-size: 14px; }
.row { display: flex; gap: 18px; align-items: end; flex-wrap: wrap; }
.short { width: 110px; }
.kinds { display: grid; grid-template-columns: repeat(5, 1fr); gap: 8px; }
.kinds button { display: grid; justify-items: center; gap: 5px; padding: 10px 2px; border: 1px solid var(--rule); border-radius: 8px; background: #fff; cursor: pointer; font-size: 13px; color: var(--soft); }
.kinds button[aria-pressed='true'] { border-color: var(--indigo); background: var(--indigo-wash); color: var(--indigo); font-weight: 700; }
.units { margin-left: auto; }
</style>
