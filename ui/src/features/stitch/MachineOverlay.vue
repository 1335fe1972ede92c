<script setup lang="ts">
/** At the machine: what is sewn, what is not sewn yet, the present line and where it leads. */
import { computed } from 'vue'
import type { Views } from '../../api/client'
import { openPath } from '../../canvas/paths'
import { toScreen, type View } from '../../canvas/view'
import type { Step } from '../../sewing/machine'

const props = defineProps<{
  here: Views['SewHere']
  view: View
  /** the share of every place that is sewn */
  spots: readonly Views['PlaceShare'][]
  steps: readonly Step[]
  /** how many of the known steps are done */
  done: readonly Step[]
  /** where the thread broke, while it is being reported */
  broke?: number[]
  /** the needle of a connected machine */
  needle?: number[]
}>()

const world = computed(() => `matrix(${props.view.scale} 0 0 ${-props.view.scale} ${props.view.x} ${props.view.y})`)
/** lines are thin when far away, or they would merge */
const wide = computed(() => Math.min(Math.max(props.view.scale / 1.6, 0.3), 1))
const path = (some: readonly number[][]) => some.map(openPath).join('')
const step = computed(() => props.steps[0])
const sewn = computed(() => path([...props.here.done, ...props.done.flatMap((one) => one.points)]))
const coming = computed(() => path([...props.steps.slice(1).flatMap((one) => (one.freehand ? [] : one.points)), ...props.here.coming]))
const free = computed(() => path(props.steps.slice(1).flatMap((one) => (one.freehand ? one.points : []))))
const spot = (at?: readonly number[]) => (at?.length ? toScreen(props.view, at[0]!, at[1]!) : undefined)
const start = computed(() => spot(step.value?.start))
const end = computed(() => spot(step.value?.at))
/** where the line itself ends, and the travel begins */
const turns = computed(() => (step.value?.travels.length && step.value.points.length ? spot(step.value.points[step.value.points.length - 1]!.slice(-2)) : undefined))
const R = 11
const GAUGES = 24 // px apart: closer ones are not drawn
const others = computed(() => {
  const placed = props.spots.filter((one) => one.share > 0 && one.place !== props.here.place).map((one) => ({ ...one, spot: spot(one.at)! }))
  const near = placed.some((one, k) => placed.slice(k + 1).some((two) => Math.hypot(one.spot[0] - two.spot[0], one.spot[1] - two.spot[1]) < GAUGES))
  return near ? [] : placed
})
const hands = computed(() => (step.value?.hands ?? []).map((at) => spot(at)!))
const brokeAt = computed(() => spot(props.broke))
const needleAt = computed(() => spot(props.needle))
</script>

<template>
  <g class="still" :style="{ '--wide': wide }">
    <g :transform="world">
      <path :d="coming" class="coming" />
      <path :d="free" class="coming free" />
      <path :d="sewn" class="sewn" />
      <template v-if="step">
        <path :d="path(step.travels)" class="travel" />
        <path :d="path(step.points)" class="now" :class="{ free: step.freehand }" data-testid="this-line" />
      </template>
    </g>
    <path v-if="step?.ruler.length" :d="`${openPath(step.ruler)}Z`" :transform="world" class="ruler" data-testid="machine-ruler" />
    <rect v-for="([x, y], k) in hands" :key="`h${k}`" :x="x - 4" :y="y - 4" width="8" height="8" class="hand" />
    <g v-for="one in others" :key="one.place" :transform="`translate(${one.spot[0]} ${one.spot[1]})`" class="share">
      <circle :r="R" /><path v-if="one.share < 1" :d="`M0 ${-R}A${R} ${R} 0 ${one.share > 0.5 ? 1 : 0} 1 ${R * Math.sin(2 * Math.PI * one.share)} ${-R * Math.cos(2 * Math.PI * one.share)}`" class="arc" />
      <path v-else d="M-5 0l4 4l7 -8" class="arc" />
    </g>
    <template v-if="step">
      <circle v-if="end" :cx="end[0]" :cy="end[1]" r="6.5" class="end" />
      <rect v-if="turns" :x="turns[0] - 5" :y="turns[1] - 5" width="10" height="10" class="turns" />
      <g v-if="start && !needleAt" :transform="`translate(${start[0]} ${start[1]})`" class="needle"><circle r="10.5" /><circle r="2.8" class="point" /></g>
    </template>
    <g v-if="needleAt" :transform="`translate(${needleAt[0]} ${needleAt[1]})`" class="needle" data-testid="machine-needle"><circle r="10.5" /><circle r="2.8" class="point" /></g>
    <path v-if="brokeAt" :d="`M${brokeAt[0] - 9} ${brokeAt[1] - 9}l18 18m0 -18l-18 18`" class="broke" data-testid="broke-at" />
  </g>
</template>

<style scoped>
.still { pointer-events: none; }
path { fill: none; vector-effect: non-scaling-stroke; stroke-linejoin: round; }
.coming { stroke: #2b3a67; stroke-width: calc(1.2px * var(--wide)); stroke-dasharray: 5 4; stroke-opacity: .7; }
.sewn { stroke: #2b3a67; stroke-width: calc(2.8px * var(--wide)); stroke-linecap: round; }
.now { stroke: #a8392c; stroke-width: calc(5px * var(--wide)); stroke-dasharray: 14 6; }
.coming.free { stroke-dasharray: 1.5 5; stroke-opacity: .5; stroke-linecap: round; }
.now.free { stroke-width: calc(2.4px * var(--wide)); stroke-dasharray: 3 5; stroke-linecap: round; }
.travel { stroke: #a8392c; stroke-width: calc(4px * var(--wide)); stroke-linecap: round; stroke-dasharray: .1 6.5; }
.end { fill: #a8392c; stroke: #fffcf6; stroke-width: 1.6; }
.turns { fill: #fffcf6; stroke: #a8392c; stroke-width: 2.4; }
.needle circle { fill: rgb(255 252 246 / 88%); stroke: #a8392c; stroke-width: 3; }
.needle .point { fill: #a8392c; stroke: none; }
.ruler { fill: rgb(47 156 149 / 20%); stroke: #1f6f69; stroke-width: 1.4; }
.hand { fill: #fffcf6; stroke: #1f6f69; stroke-width: 2; }
.share circle { fill: #e2eee6; stroke: #d9d0bc; stroke-width: 1.5; }
.share .arc { stroke: #3f6b56; stroke-width: 3.4; stroke-linecap: round; }
.broke { stroke: #a8392c; stroke-width: 4; stroke-linecap: round; }
</style>
