<script setup lang="ts">
/** What is marked of a zone, in the coordinates of its part: dotted what is drawn as it is sewn, dash and dot where the
 * ruler's edge goes, strips of tape with what is sewn along them, a stencil, dots and signs. */
import { computed } from 'vue'
import type { Marked } from './marked'
import { closedPath, openPath } from './paths'

const props = defineProps<{
  marks: Marked
  /** the round of tape, or placement of the stencil, that is shown */
  round?: number
  /** what is to be marked in this step */
  now?: { lines: number[][]; dots: number[][]; laid: number[][] }
  /** pixels a mm */
  scale: number
}>()

const path = (lines: number[][]) => lines.map((line) => openPath(line)).join('')
const spots = (dots: number[][]) => dots.map(([x, y]) => `M${x} ${y}h0`).join('')
const drawn = computed(() => path(props.marks.strokes))
const signs = computed(() => path(props.marks.signs.flatMap((sign) => sign.strokes)))
const here = computed(() => props.marks.laid.filter((one) => one.round === props.round))
/** a stencil overlaps its earlier placement */
const before = computed(() => props.marks.laid.filter((one) => one.round === (props.round ?? 0) - 1 && !one.sewn.length))
const sewn = computed(() => here.value.flatMap((one) => one.sewn))
const nowSewn = computed(() => (props.now?.laid.length ? props.now.lines : []))
/** a small arrow slightly beyond the middle of every sewn line */
const ways = computed(() =>
  [...sewn.value, ...nowSewn.value]
    .map((line) => {
      const [x0, y0] = line as [number, number]
      const [x1, y1] = line.slice(-2) as [number, number]
      const long = Math.hypot(x1 - x0, y1 - y0) || 1
      const [ux, uy] = [(x1 - x0) / long, (y1 - y0) / long]
      const [x, y] = [x0 + ux * long * 0.6, y0 + uy * long * 0.6]
      const size = Math.min(9 / props.scale, long / 3)
      return `M${x - (ux + uy * 0.6) * size} ${y - (uy - ux * 0.6) * size}L${x} ${y}L${x - (ux - uy * 0.6) * size} ${y - (uy + ux * 0.6) * size}`
    })
    .join(''),
)
</script>

<template>
  <g class="marks">
    <path v-for="(one, k) in before" :key="`b${k}`" :d="closedPath([one.corners])" class="before" />
    <path v-for="(one, k) in here" :key="k" :d="closedPath([one.corners])" class="tape" />
    <path v-if="drawn" :d="drawn" :class="marks.stands_for === 'ruler edge' ? 'edges' : 'marked'" />
    <path v-if="sewn.length" :d="path(sewn)" class="sewn" />
    <template v-if="now">
      <path v-for="(corners, k) in now.laid" :key="`n${k}`" :d="closedPath([corners])" class="tape" />
      <path v-if="now.lines.length" :d="path(now.lines)" class="now" />
      <path v-if="now.dots.length" :d="spots(now.dots)" class="dots at-hand" />
    </template>
    <path v-if="ways" :d="ways" class="way" />
    <path v-if="signs" :d="signs" class="sign" />
    <path v-if="marks.dots.length" :d="spots(marks.dots)" class="dots" />
  </g>
</template>

<style scoped>
path { vector-effect: non-scaling-stroke; stroke-linecap: round; stroke-linejoin: round; fill: none; }
.marked { stroke: #b9820f; stroke-width: 3.6; stroke-dasharray: .1 6.4; }
.edges { stroke: #1f6f69; stroke-width: 2.4; stroke-dasharray: 13 5 1 5; }
.tape { fill: #f6e7b4; fill-opacity: .72; stroke: #b9820f; stroke-width: 1.6; }
.before { stroke: #b9820f; stroke-width: 1.6; stroke-dasharray: 5 5; }
.sewn { stroke: #2b3a67; stroke-width: 2.6; stroke-dasharray: 8 4; stroke-linecap: butt; }
.way { stroke: #2b3a67; stroke-width: 2.6; }
.now { stroke: #a8392c; stroke-width: 5; stroke-dasharray: 16 6; stroke-linecap: butt; }
.sign { stroke: #6b4a05; stroke-width: 2.2; }
.dots { stroke: #b9820f; stroke-width: 7.4; }
.dots.at-hand { stroke: #a8392c; stroke-width: 9; }
</style>
