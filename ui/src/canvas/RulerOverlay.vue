<script setup lang="ts">
/** The ruler as placed for the chosen line: body, etched lines, foot, stops and its label. */
import { computed } from 'vue'
import type { Views } from '../api/client'
import { placed, toScreen, type Placing, type View } from './view'

const props = defineProps<{ ruler: Views['RulerView']; placing: Placing; view: View; unit: string }>()

const screen = (x: number, y: number) => toScreen(props.view, ...placed(props.placing, x, y))
function points(flat: number[]) {
  const out: [number, number][] = []
  for (let k = 0; k < flat.length; k += 2) out.push(screen(flat[k]!, flat[k + 1]!))
  return out
}
const path = (flat: number[]) => `M${points(flat).map((p) => p.join(' ')).join('L')}`
/** A curve has no straight ruler; then only the line and the foot are shown. */
const body = computed(() => (props.ruler.body.length ? `${path(props.ruler.body)}Z` : ''))
const line = computed(() => path(props.ruler.ends))
const foot = computed(() => screen(props.ruler.foot[0]!, props.ruler.foot[1]!))
const r = computed(() => Math.max(props.ruler.radius * props.view.scale, 3))
const stops = computed(() => props.ruler.stops.map((s) => ({ needle: screen(s.needle[0]!, s.needle[1]!), edge: screen(s.edge[0]!, s.edge[1]!) })))
const words = computed(() =>
  props.ruler.tag.map((w) => (typeof w === 'string' ? w : `${w.text}${w.unit ? ` ${w.unit}` : ''}`)).join(''),
)
/** The label is horizontal, in the middle of the ruler. */
const tag = computed(() => {
  const corners = points(props.ruler.body)
  const mid = [0, 1].map((k) => corners.reduce((sum, c) => sum + c[k]!, 0) / corners.length)
  return { x: mid[0]!, y: mid[1]!, wide: words.value.length * 7.1 + 20 }
})
</script>

<template>
  <g class="ruler" data-testid="ruler">
    <path v-if="body" :d="body" class="body" />
    <path v-for="(etched, k) in ruler.etched" :key="k" :d="path(etched)" class="etched" :class="{ on: k === ruler.chosen, edge: k === 0 }" />
    <path :d="line" class="line" />
    <g v-for="(stop, k) in stops" :key="k">
      <path :d="`M${stop.needle.join(' ')}L${stop.edge.join(' ')}`" class="reach" />
      <circle :cx="stop.edge[0]" :cy="stop.edge[1]" r="4" class="dot" />
      <rect :x="stop.needle[0] - 4" :y="stop.needle[1] - 4" width="8" height="8" class="stop" />
    </g>
    <circle :cx="foot[0]" :cy="foot[1]" :r="r" class="foot" />
    <circle :cx="foot[0]" :cy="foot[1]" r="2.5" class="needle" />
    <g v-if="body" :transform="`translate(${tag.x} ${tag.y})`">
      <rect :x="-tag.wide / 2" y="-14" :width="tag.wide" height="28" rx="6" class="tag" />
      <text y="5" text-anchor="middle">{{ words }}</text>
    </g>
  </g>
</template>

<style scoped>
.ruler { pointer-events: none; }
.body { fill: #2f9c95; fill-opacity: .3; stroke: #1f6f69; stroke-width: 1.4; }
.etched { stroke: #1f6f69; stroke-width: .9; stroke-opacity: .75; fill: none; }
.etched.edge { stroke-width: 2.2; stroke-opacity: 1; }
.etched.on { stroke: #0f4d48; stroke-width: 3.4; stroke-opacity: 1; }
.line { stroke: #a8392c; stroke-width: 3; stroke-dasharray: 13 5; fill: none; }
.foot { fill: #fff6f3; fill-opacity: .65; stroke: #a8392c; stroke-width: 2.2; }
.needle { fill: #a8392c; }
.reach { stroke: #0f4d48; stroke-width: 1.2; stroke-dasharray: 2 3; }
.dot { fill: #fff; stroke: #0f4d48; stroke-width: 2; }
.stop { fill: #fff; stroke: #a8392c; stroke-width: 2; }
.tag { fill: #fffcf6; stroke: #1f6f69; }
text { font-size: 14px; font-weight: 700; fill: #14514c; }
</style>
