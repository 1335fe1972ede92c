<script setup lang="ts">
/** The route on the quilt: the order of the blocks, or the needle on its route through one. */
import { computed } from 'vue'
import type { Views } from '../../api/client'
import { openPath } from '../../canvas/paths'
import { toScreen, type View } from '../../canvas/view'
import { partOf, type Needle } from '../../sewing/walk'

const props = defineProps<{
  route: Views['RouteView']
  view: View
  /** the position of the needle, and how far it is into its piece, mm */
  needle?: Needle
  into: number
  /** a hand-made order while it is dragged: only these places are drawn */
  drawn?: string[]
}>()

const BESIDE = 27
const world = computed(() => `matrix(${props.view.scale} 0 0 ${-props.view.scale} ${props.view.x} ${props.view.y})`)
const legs = computed(() => props.route.here?.legs ?? [])
const path = (some: Views['LegView'][]) => some.map((leg) => openPath(leg.points)).join('')
const done = computed(() => legs.value.slice(0, props.needle?.piece ?? 0))
const coming = computed(() => legs.value.slice(props.needle?.piece ?? 0))
const now = computed(() => (props.needle ? legs.value[props.needle.piece] : undefined))
const part = computed(() => (now.value ? openPath(partOf(now.value.points, props.into)) : ''))
const screen = (x: number, y: number) => toScreen(props.view, x, y)
/** where threads begin and end */
const threads = computed(() => {
  const begins = legs.value.filter((leg) => leg.begins).map((leg) => screen(leg.points[0]!, leg.points[1]!))
  const ends = legs.value.filter((_, k) => k + 1 === legs.value.length || legs.value[k + 1]!.begins).map((leg) => screen(...(leg.points.slice(-2) as [number, number])))
  return { begins, ends }
})
const hands = computed(() => (now.value?.sews ? now.value.hands.map((at) => screen(at[0]!, at[1]!)) : []))
const avoided = computed(() => (props.route.here?.avoided ?? []).map((one) => ({ ...one, spot: screen(one.at[0]!, one.at[1]!) })))
const stitch = computed(() => (props.needle ? screen(props.needle.x, props.needle.y) : undefined))
/** the order of the blocks: from center to center, interrupted where the thread is cut */
const shown = computed(() => (props.drawn ? props.drawn.flatMap((place) => props.route.visits.find((visit) => visit.place === place) ?? []) : props.route.visits))
/** a place sewn in several passes has its numbers side by side */
const visits = computed(() => {
  const times = new Map<string, number>()
  for (const { place } of shown.value) times.set(place, (times.get(place) ?? 0) + 1)
  const before = new Map<string, number>()
  return shown.value.map((visit, k) => {
    const turn = before.get(visit.place) ?? 0
    before.set(visit.place, turn + 1)
    const [x, y] = screen(visit.middle[0]!, visit.middle[1]!)
    return { ...visit, stop: visit.stop && !props.drawn, number: k + 1, spot: [x + BESIDE * (turn - (times.get(visit.place)! - 1) / 2), y] as const }
  })
})
const order = computed(() => visits.value.map((visit, k) => `${k ? 'L' : 'M'}${visit.spot[0]} ${visit.spot[1]}`).join(''))
const ways = computed(() => props.route.visits.filter((visit) => visit.way.length).map((visit) => openPath(visit.way)).join(''))
const crowded = computed(() => visits.value.length > 1 && Math.min(...visits.value.slice(1).map((v, k) => Math.hypot(v.spot[0] - visits.value[k]!.spot[0], v.spot[1] - visits.value[k]!.spot[1]) || 99)) < 22)
</script>

<template>
  <g class="route still">
    <template v-if="route.here">
      <g :transform="world">
        <path :d="path(coming.filter((leg) => leg.sews && !leg.freehand))" class="coming" />
        <path :d="path(coming.filter((leg) => leg.freehand))" class="coming free" />
        <path :d="path(coming.filter((leg) => !leg.sews))" class="travel ahead" />
        <path :d="path(done.filter((leg) => leg.sews))" class="done" />
        <path :d="path(done.filter((leg) => !leg.sews))" class="travel" />
        <path v-if="part" :d="part" :class="now?.sews ? 'done' : 'travel'" />
      </g>
      <path v-if="now?.sews && now.ruler.length" :d="`${openPath(now.ruler)}Z`" :transform="world" class="ruler" />
      <rect v-for="([x, y], k) in hands" :key="`h${k}`" :x="x - 4" :y="y - 4" width="8" height="8" class="hand" />
      <circle v-for="([x, y], k) in threads.begins" :key="`b${k}`" :cx="x" :cy="y" r="5.4" class="begin" />
      <rect v-for="([x, y], k) in threads.ends" :key="`e${k}`" :x="x - 4.5" :y="y - 4.5" width="9" height="9" class="end" />
      <g v-for="(one, k) in avoided" :key="`a${k}`" :transform="`translate(${one.spot[0]} ${one.spot[1]})`" class="avoided"><circle r="9" /><path v-if="one.how === 'never'" d="M-4 -4l8 8m0 -8l-8 8" /><path v-else d="M-5 3q5 -11 10 0" /></g>
      <g v-if="stitch" :transform="`translate(${stitch[0]} ${stitch[1]})`" class="needle" data-testid="needle"><circle r="10" /><circle r="2.6" class="point" /></g>
    </template>
    <template v-else>
      <path v-if="drawn" :d="order" class="order" />
      <path v-else :d="ways" :transform="world" class="order" />
      <g v-for="visit in visits" v-show="!crowded || visit.number === 1 || visit.stop" :key="visit.number" :transform="`translate(${visit.spot[0]} ${visit.spot[1]})`" class="visit">
        <circle r="12" :class="{ first: visit.number === 1, stop: visit.stop, sewn: visit.share === 1 }" /><path v-if="visit.share && visit.share < 1" :d="`M0 -12A12 12 0 ${visit.share > 0.5 ? 1 : 0} 1 ${12 * Math.sin(2 * Math.PI * visit.share)} ${-12 * Math.cos(2 * Math.PI * visit.share)}`" class="part" /><text text-anchor="middle" dy="4.5">{{ visit.share === 1 ? '✓' : visit.number }}</text>
      </g>
    </template>
  </g>
</template>

<style scoped>
.still { pointer-events: none; }
path { fill: none; vector-effect: non-scaling-stroke; stroke-linejoin: round; }
.coming { stroke: #2b3a67; stroke-width: 1.4; stroke-dasharray: 6 3; }
.coming.free { stroke-width: 1.8; stroke-opacity: .5; stroke-dasharray: 1.5 5; stroke-linecap: round; }
.done { stroke: #2b3a67; stroke-width: 3; stroke-linecap: round; }
.travel { stroke: #a8392c; stroke-width: 3.4; stroke-linecap: round; stroke-dasharray: .1 5.4; }
.travel.ahead { stroke-width: 2.4; stroke-opacity: .6; }
.ruler { fill: rgb(47 156 149 / 20%); stroke: #1f6f69; stroke-width: 1.4; }
.hand { fill: #fffcf6; stroke: #1f6f69; stroke-width: 2; }
.begin { fill: #fff; stroke: #a8392c; stroke-width: 2.2; }
.end { fill: #a8392c; stroke: #fff; stroke-width: 1; }
.needle circle { fill: rgb(255 252 246 / 85%); stroke: #a8392c; stroke-width: 2.6; }
.needle .point { fill: #a8392c; stroke: none; }
.avoided circle { fill: #fffcf6; stroke: #a8392c; stroke-width: 2; }
.avoided path { stroke: #a8392c; stroke-width: 2.4; stroke-linecap: round; }
.order { stroke: #a8392c; stroke-width: 2.4; stroke-dasharray: .1 6; stroke-linecap: round; }
.visit circle { fill: #fffcf6; stroke: #2b3a67; stroke-width: 2; }
.visit .first { stroke: #a8392c; stroke-width: 3; }
.visit .stop { stroke: #a8392c; stroke-dasharray: 4 3; }
.visit .sewn { fill: #e2eee6; stroke: #3f6b56; }
.visit .part { stroke: #3f6b56; stroke-width: 4; }
.visit text { font-size: 13px; font-weight: 700; fill: #2b3a67; }
</style>
