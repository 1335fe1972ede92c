<script setup lang="ts">
/** A picture of an item: rulers from their own numbers, the rest as simple drawings of our own. */
import { computed } from 'vue'
import type { Views } from '../../api/client'

const props = defineProps<{ thing: Views['ThingView'] }>()
const W = 108
const H = 58

const PLAIN: Record<string, string> = {
  machine: 'M14 50V20q0-8 8-8h62q8 0 8 8v30M14 50h80M30 12v14h12V12M36 26v14M80 24v12',
  'ruler foot': 'M54 6v26M40 32h28M54 52m-16-10a16 10 0 1032 0a16 10 0 10-32 0M54 42m-3 0a3 3 0 106 0a3 3 0 10-6 0',
  'walking foot': 'M60 6v20M36 26h40v10H36zM42 36v14h8V36M64 36v14h8V36M76 30h22v-10',
  needles: 'M40 8v34l3 10 3-10V8zM60 8v34l3 10 3-10V8zM43 14v4M63 14v4',
  stencil: 'M26 6h56v46H26zM26 18h56M26 29h56M26 41h56M40 6v46M54 6v46M68 6v46',
  tape: 'M40 29m-20 0a20 20 0 1040 0a20 20 0 10-40 0M40 29m-9 0a9 9 0 1018 0a9 9 0 10-18 0M40 49h52v-7H56',
  marker: 'M24 44l8-12 44-24 8 12-44 24zM24 44l-6 6M32 32l8 12',
  thread: 'M40 8h28v6H40zM40 44h28v6H40zM44 14v30M64 14v30M44 20l20 4M44 27l20 4M44 34l20 4',
  bobbin: 'M34 12h40v5H34zM34 41h40v5H34zM38 17v24M70 17v24M38 24h32M38 30h32M38 36h32',
  batting: 'M18 20q9-10 18 0t18 0 18 0 18 0v16q-9 10-18 0t-18 0-18 0-18 0z',
}
const edges = computed(() => props.thing.edges)
const straight = computed(() => edges.value.find((edge) => edge.kind === 'straight'))
const scale = computed(() => Math.min(96 / Math.max(...edges.value.map((edge) => Math.min(edge.length, 2.2 * edge.radius || edge.length)), 1), 2.4))
const ruler = computed(() => {
  const edge = straight.value
  if (!edge) return undefined
  const [wide, high] = [Math.min(edge.length * scale.value, 96), Math.max(Math.min(edge.width * scale.value, 46), 8)]
  const across = high / edge.width
  const lines = edge.lines.filter((at) => at > 0 && at < edge.width).map((at) => at * across)
  return { x: (W - wide) / 2, y: (H - high) / 2, wide, high, lines: lines.length > 14 ? lines.filter((_, k) => k % 2) : lines }
})
/** An arc of at most a third of its circle, drawn as thick plastic. */
const arc = computed(() => {
  const [outside, inside] = ['outside', 'inside'].map((kind) => edges.value.find((edge) => edge.kind === kind))
  const edge = outside ?? inside
  if (!edge || straight.value) return ''
  const whole = edge.length >= 2 * Math.PI * edge.radius - 1
  if (whole) return `M${W / 2 - 24} 29a24 24 0 1048 0a24 24 0 10-48 0M${W / 2 - 9} 29a9 9 0 1018 0a9 9 0 10-18 0`
  const half = Math.min(edge.length / edge.radius / 2, 1.1)
  const r = 44 / Math.sin(half)
  const at = (radius: number, turn: number) => `${(W / 2 + radius * Math.sin(turn)).toFixed(1)} ${(14 + r - radius * Math.cos(turn)).toFixed(1)}`
  return `M${at(r, -half)}A${r} ${r} 0 01${at(r, half)}L${at(r - 18, half)}A${r - 18} ${r - 18} 0 00${at(r - 18, -half)}Z`
})
const wavy = computed(() => {
  const edge = edges.value.find((one) => one.kind === 'wave' || one.kind === 'zigzag')
  if (!edge) return ''
  const many = Math.max(Math.min(Math.round(edge.length / edge.period), 12), 1)
  const [step, high] = [96 / many, Math.min((96 / many) * (edge.depth / edge.period), 30)]
  const points = Array.from({ length: many * (edge.kind === 'wave' ? 16 : 2) + 1 }, (_, k) => {
    const share = k / (edge.kind === 'wave' ? 16 : 2)
    const up = edge.kind === 'wave' ? (1 - Math.cos(2 * Math.PI * share)) / 2 : k % 2
    return `${(6 + share * step).toFixed(1)} ${(16 + high * (1 - up)).toFixed(1)}`
  })
  return `M${points.join('L')}V52H6Z`
})
</script>

<template>
  <svg :viewBox="`0 0 ${W} ${H}`" :width="W" :height="H" aria-hidden="true">
    <template v-if="ruler">
      <rect :x="ruler.x" :y="ruler.y" :width="ruler.wide" :height="ruler.high" rx="2" class="plastic" />
      <path v-for="(at, k) in ruler.lines" :key="k" :d="`M${ruler.x} ${ruler.y + at}h${ruler.wide}`" class="etched" />
      <path :d="`M${ruler.x} ${ruler.y}h${ruler.wide}`" class="edge" />
    </template>
    <path v-else-if="arc || wavy" :d="arc || wavy" class="plastic" fill-rule="evenodd" />
    <path v-else :d="PLAIN[thing.kind] ?? ''" class="plain" :style="thing.kind === 'thread' ? { fill: String((thing.thing as Record<string, unknown>).colour) } : {}" />
  </svg>
</template>

<style scoped>
.plastic { fill: #2f9c95; fill-opacity: .2; stroke: #1f6f69; stroke-width: 1.3; }
.etched { stroke: #1f6f69; stroke-width: .7; }
.edge { stroke: #1f6f69; stroke-width: 2.4; }
.plain { fill: var(--muslin); stroke: var(--indigo); stroke-width: 1.6; stroke-linejoin: round; stroke-linecap: round; }
</style>
