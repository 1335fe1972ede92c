<script setup lang="ts">
/** Divides a zone by lines that will be quilted, with a preview of the result. */
import { computed, onBeforeUnmount, ref, watch, type ComputedRef } from 'vue'
import { api, type Views } from '../../api/client'
import { useAsk } from '../../state/ask'
import { useQuilt } from '../../state/quilt'
import { useTop } from '../../state/top'
import { useCutting } from '../../state/cutting'
import { useZone } from '../../state/zone'
import { counted, tr } from '../../texts'

const props = defineProps<{ zone: Views['ZoneInfo'] }>()
const emit = defineEmits<{ tried: [cut: { part: string; place: string; rings: number[][] } | undefined] }>()
const KINDS = [
  ['diagonals', tr('its diagonals')],
  ['cross', tr('a cross')],
  ['inset square', tr('an inset square')],
  ['inset outline', tr('its outline, inset')],
  ['line', tr('a line …')],
] as const
const quilt = useQuilt()
const top = useTop()
const held = useZone()
const cutting = useCutting()
const kind = ref('')
const alike = ref(true)
const sewn = ref(true)
const around = ref(false)
const distance = ref(quilt.unit === 'mm' ? '25' : '1')
const along = ref('')
const found = ref<Views['CutView']>()
const error = ref('')

type Cut = Views['CutRequest']['cut']
const cut = computed(() => {
  if (kind.value === 'inset square') return { kind: kind.value, inset: distance.value }
  if (kind.value === 'inset outline') return { kind: kind.value, distance: distance.value }
  if (kind.value !== 'line') return kind.value ? { kind: kind.value } : undefined
  const [start, end] = cutting.ends
  return start && end ? { kind: 'line', start: start.share, end: end.share, around: around.value } : undefined
}) as ComputedRef<Cut | undefined>

const { ask, drop, pending, fault } = useAsk()
watch([cut, alike, () => props.zone.key], async () => {
  drop()
  const wanted = cut.value
  error.value = ''
  const answer = wanted && (await ask((signal) => api.cut(quilt.id, { zone: props.zone.key, cut: wanted, alike: alike.value, unit: quilt.unit }, signal)))
  if (!answer && wanted && (pending.value || !fault.value)) return // another request is under way
  found.value = answer
  error.value = fault.value?.message ?? ''
  const place = props.zone.part === 'top' ? 'top' : held.place
  emit('tried', answer && { part: answer.part, place, rings: answer.rings })
})

async function choose(wanted: string) {
  kind.value = kind.value === wanted ? '' : wanted
  cutting.stop()
  if (kind.value === 'line') await cutting.begin(quilt.id, props.zone.key, quilt.unit)
}
async function measured(edge: number) {
  error.value = (await cutting.measure(quilt.id, props.zone.key, edge, along.value, quilt.unit)) ?? ''
}
watch(() => cutting.edge, (edge) => { if (edge !== undefined) void measured(edge) })
watch(() => props.zone.key, () => {
  kind.value = ''
  cutting.stop()
})
async function make() {
  const whole = props.zone.key
  if (!(await top.change('cut', { kind: 'cut', zone: whole, cut: cut.value!, alike: alike.value, sewn: sewn.value }))) return
  kind.value = ''
  cutting.stop()
  if (held.key === whole) await held.choose('')
}
onBeforeUnmount(() => {
  cutting.stop()
  emit('tried', undefined)
})
</script>

<template>
  <div class="cut">
    <p class="label">{{ tr('Divide by lines that you will quilt') }}</p>
    <div class="chips">
      <v-btn v-for="[key, label] in KINDS" :key="key" class="chip" :aria-pressed="kind === key" :data-testid="`cut-${key.replace(' ', '-')}`" @click="choose(key)">{{ label }}</v-btn>
    </div>
    <label v-if="kind.startsWith('inset')" class="between"><span>{{ kind === 'inset square' ? tr('In from the zone’s sides') : tr('In from its outline') }}</span><input v-model="distance" class="text" data-testid="cut-distance" /></label>
    <template v-if="kind === 'line'">
      <p class="card tip" role="status">{{ cutting.ends.length === 0 ? tr('Click the point where the line begins.') : cutting.ends.length === 1 ? tr('Click the point where it ends.') : tr('From point to point.') }}
        <v-btn v-if="cutting.ends.length" class="plain" @click="cutting.startOver()">{{ tr('Start over') }}</v-btn></p>
      <label class="between"><span>{{ tr('Or measured from a corner:') }}</span><input v-model="along" class="text" placeholder="2 1/2" data-testid="cut-along" /></label>
      <v-btn v-if="along.trim()" class="chip" :aria-pressed="cutting.byEdge" @click="cutting.byEdge = !cutting.byEdge">{{ cutting.byEdge ? tr('Now click the edge …') : tr('Along an edge') }}</v-btn>
      <div class="chips"><v-btn class="chip" :aria-pressed="around" data-testid="cut-around" @click="around = !around">{{ tr('Same from all four sides') }}</v-btn></div>
    </template>
    <p v-if="error || top.errorAt('cut')" class="wrong" role="alert">{{ error || top.errorAt('cut') }}</p>
    <template v-if="found">
      <div class="chips">
        <v-btn class="chip" :aria-pressed="alike" @click="alike = true">{{ tr('Matching pieces together') }}</v-btn>
        <v-btn class="chip" :aria-pressed="!alike" @click="alike = false">{{ tr('Each piece a zone') }}</v-btn>
      </div>
      <div class="chips">
        <v-btn class="chip" :aria-pressed="sewn" data-testid="cut-sewn" @click="sewn = true">{{ tr('Sew the dividing lines') }}</v-btn>
        <v-btn class="chip" :aria-pressed="!sewn" data-testid="cut-bare" @click="sewn = false">{{ tr('Only divide') }}</v-btn>
      </div>
      <p class="quiet">{{ counted(found.names.length, 'Gives one zone: {names}.', 'Gives {count} zones: {names}.', { names: found.names.map((n) => n.split(': ').at(-1)).join(', ') }) }}</p>
      <v-btn color="primary" variant="outlined" data-testid="cut-it" @click="make()">{{ tr('Divide') }}</v-btn>
    </template>
  </div>
</template>

<style scoped>
.cut { display: grid; gap: 8px; border: 1px solid var(--rule); border-radius: 10px; padding: 10px 12px; background: var(--field); }
</style>
