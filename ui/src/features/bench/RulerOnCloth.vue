<script setup lang="ts">
/** The ruler on the block: it can be dragged and turned, the foot slides along it, and the sewn line is drawn live. */
import { computed } from 'vue'
import type { Unit } from '../../api/client'
import { COARSE, figure } from '../../bench/figure'
import { along, layMatrix, nearestShare, put, seen, turned, type Lay } from '../../bench/lay'
import { matrix, placed, toQuilt, toScreen, unplaced, type Placing, type View } from '../../canvas/view'
import { useBench } from '../../state/bench'
import { tr } from '../../texts'

const props = defineProps<{
  view: View
  placing: Placing
  local: (event: { clientX: number; clientY: number }) => [number, number]
  width: number
  height: number
  unit: Unit
}>()
const bench = useBench()

const SNAP_PX = 9
const GRIP = 46
const world = computed(() => `matrix(${props.view.scale} 0 0 ${-props.view.scale} ${props.view.x} ${props.view.y}) ${matrix(props.placing)}`)
const toPart = (event: PointerEvent) => unplaced(props.placing, ...toQuilt(props.view, ...props.local(event)))
const screen = (x: number, y: number) => toScreen(props.view, ...placed(props.placing, x, y))
const path = (flat: number[], close = false) => {
  let out = ''
  for (let k = 0; k < flat.length; k += 2) out += `${k ? 'L' : 'M'}${flat[k]} ${flat[k + 1]}`
  return close ? `${out}Z` : out
}

const edge = computed(() => bench.edge!)
const half = computed(() => edge.value.edge.at(-2)!)
const body = computed(() => edge.value.rings.map((ring) => path(ring, true)).join(''))
const held = computed(() => bench.reading?.held[0])
const on = computed(() => (held.value?.etched != null ? held.value : undefined))
const sewn = computed(() => path(bench.reading?.sewn ?? []))
const footAt = computed(() => screen(...along(put(bench.lay, edge.value.needle), bench.foot)))
const radius = computed(() => Math.max(bench.view!.foot * props.view.scale, 5))
const stops = computed(() =>
  (bench.reading?.stops ?? []).map((stop) => ({ needle: screen(...stop.needle), edge: screen(...stop.edge), along: stop.along })),
)
/** Etched lines have their figure where there is room for it, clear of the grip. */
const numbers = computed(() => {
  let last = -Infinity
  const [x0, y0] = screen(...at(0, 0))
  const [x1, y1] = screen(...at(0, 1))
  const room = (36 * Math.abs(x1 - x0) + 17 * Math.abs(y1 - y0)) / Math.hypot(x1 - x0, y1 - y0)
  return edge.value.etched.flatMap((one, k) => {
    const px = one.at * props.view.scale
    if (!k || px - last < room) return []
    last = px
    const [x, y] = screen(...at(-half.value + 62 / props.view.scale, one.at))
    return [{ x, y, text: one.label.map((w) => (typeof w === 'string' ? w : w.text)).join('') }]
  })
})
const at = (u: number, v: number): [number, number] => put(bench.lay, [u, v]) as [number, number]
/** The distance along the ruler between the terms of the sum, so that their labels do not overlap. */
const step = computed(() => {
  const [x0, y0] = screen(...at(0, 0))
  const [x1, y1] = screen(...at(1, 0))
  return Math.min(34 / Math.abs(y1 - y0), 128 / Math.abs(x1 - x0)) // in mm: these are pixels per mm
})
/** Where along the ruler the sum is drawn: visible, clear of the foot and as near to it as possible. */
const seat = computed(() => {
  const foot = seen(bench.lay, ...(along(put(bench.lay, edge.value.needle), bench.foot)))[0]
  const far = (radius.value + 26) / props.view.scale
  const clear = (u: number, way: number) =>
    [0, 1, 2].every((k) => {
      const [x, y] = screen(...at(u + way * k * step.value, 0))
      return x > 60 && y > 60 && x < props.width - 130 && y < props.height - 60
    })
  for (let k = 0; k < 24; k++) {
    for (const way of [1, -1]) {
      const u = foot + way * (far + k * 0.25 * step.value)
      if (Math.abs(u + 2 * way * step.value) < half.value && clear(u, way)) return { u, way }
    }
  }
  return { u: foot + far, way: 1 }
})
interface Span { from: [number, number]; to: [number, number]; words: string; kind: string; x: number; y: number; wide: number }
const span = (u: number, v0: number, v1: number, words: string, kind: string): Span => {
  const [from, to] = [screen(...at(u, v0)), screen(...at(u, v1))]
  return { from, to, words, kind, x: (from[0] + to[0]) / 2, y: (from[1] + to[1]) / 2, wide: words.length * 7.4 + 18 }
}
/** Why the mark does not sew its own figure: mark and foot add up. */
const spans = computed(() => {
  const { u, way } = seat.value
  const next = way * step.value
  const r = bench.view!.foot
  const said = (mm: number, about = false) => figure(mm, props.unit, about ? COARSE[props.unit] / 4 : undefined, about).text
  const foot = span(u, 0, -r, tr('{said} foot', { said: said(r) }), 'foot')
  if (on.value) {
    const mark = on.value.etched ? [span(u + next, on.value.etched, 0, tr('{said} mark', { said: said(on.value.etched) }), 'mark')] : []
    return [span(u + (on.value.etched ? 2 : 1) * next, on.value.etched!, -r, tr('{said} sewn', { said: said(on.value.away) }), 'sewn'), ...mark, foot]
  }
  if (held.value?.bare) return [span(u + next, -held.value.bare, -r, tr('{said} sewn', { said: said(held.value.away, true) }), 'sewn'), foot]
  const near = bench.reading?.held.find((one) => Math.abs(one.away) > 0.3)
  return near ? [span(u + next, near.away - r, -r, `${said(Math.abs(near.away), true)}`, 'sewn'), foot] : [foot]
})
const level = (one: Span) => {
  const [dx, dy] = [one.to[0] - one.from[0], one.to[1] - one.from[1]]
  const long = Math.hypot(dx, dy) || 1
  const [nx, ny] = [(-dy / long) * 5, (dx / long) * 5]
  return `M${one.from[0]} ${one.from[1]}L${one.to[0]} ${one.to[1]}M${one.from[0] - nx} ${one.from[1] - ny}l${2 * nx} ${2 * ny}M${one.to[0] - nx} ${one.to[1] - ny}l${2 * nx} ${2 * ny}`
}
/** A label moved beside its span if it would cover it. */
const label = (one: Span) => {
  const [dx, dy] = [Math.abs(one.to[0] - one.from[0]), Math.abs(one.to[1] - one.from[1])]
  if (dx >= dy) return dx > one.wide + 8 ? { x: one.x, y: one.y } : { x: Math.max(one.from[0], one.to[0]) + one.wide / 2 + 9, y: one.y }
  return { x: one.x + one.wide / 2 + 10, y: one.y }
}
/** The turning grips on the plastic; if a straight ruler extends off the screen, they are moved to its visible end. */
const grips = computed(() =>
  edge.value.grips.map(([u, v]) => {
    let [x, y] = screen(...at(u!, v!))
    if (edge.value.straight) {
      const [ax, ay] = screen(...at(0, v!))
      const long = Math.hypot(x - ax, y - ay) || 1
      const [ux, uy] = [(x - ax) / long, (y - ay) / long]
      const reach = Math.min(long, ux > 0 ? (props.width - 40 - ax) / ux : ux < 0 ? (70 - ax) / ux : Infinity, uy > 0 ? (props.height - 70 - ay) / uy : uy < 0 ? (70 - ay) / uy : Infinity)
      ;[x, y] = [ax + ux * Math.max(reach, 40), ay + uy * Math.max(reach, 40)]
    }
    return { x, y, out: x < 50 || y < 50 || x > props.width - 20 || y > props.height - 50 }
  }),
)

// what is being dragged: the ruler, one of its grips, or the foot
let holding: { what: 'ruler' | 'grip' | 'foot'; from: [number, number]; lay: Lay } | undefined
function hold(what: 'ruler' | 'grip' | 'foot', event: PointerEvent) {
  if (event.button !== 0) return
  event.stopPropagation()
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  holding = { what, from: toPart(event), lay: bench.lay }
}
function pull(event: PointerEvent) {
  if (!holding) return
  event.stopPropagation()
  const [x, y] = toPart(event)
  const reach = event.altKey ? 0 : SNAP_PX / props.view.scale
  const { lay, from } = holding
  if (holding.what === 'ruler') bench.move({ ...lay, x: lay.x + x - from[0], y: lay.y + y - from[1] }, reach)
  else if (holding.what === 'grip') {
    const by = Math.atan2(y - lay.y, x - lay.x) - Math.atan2(from[1] - lay.y, from[0] - lay.x)
    bench.turnTo(turned(lay, (by * 180) / Math.PI, lay.x, lay.y), reach)
  } else bench.foot = nearestShare(edge.value.needle, ...seen(bench.lay, x, y)).share
}
function drop(event: PointerEvent) {
  if (holding) event.stopPropagation()
  holding = undefined
}
const grab = (what: 'ruler' | 'grip' | 'foot') => ({ pointerdown: (event: PointerEvent) => hold(what, event), pointermove: pull, pointerup: drop, pointercancel: drop })
</script>

<template>
  <g class="bench" data-testid="bench-ruler" :data-lay="`${bench.lay.x} ${bench.lay.y} ${bench.lay.angle}`">
    <g :transform="world" fill="none">
      <g :transform="layMatrix(bench.lay)">
        <path :d="body" class="body" fill-rule="evenodd" vector-effect="non-scaling-stroke" data-testid="body" v-on="grab('ruler')" />
        <g class="still">
          <path v-for="(one, k) in edge.others" :key="`o${k}`" :d="path(one)" class="other" vector-effect="non-scaling-stroke" />
          <path v-for="one in edge.etched.slice(1)" :key="one.at" :d="path(one.line)" class="etched" :class="{ on: on?.etched === one.at }" vector-effect="non-scaling-stroke" />
          <path :d="path(edge.edge)" class="edge" :class="{ on: on?.etched === 0 }" vector-effect="non-scaling-stroke" />
          <path v-for="(one, k) in edge.dead" :key="`d${k}`" :d="path(one)" class="dead" vector-effect="non-scaling-stroke" />
          <path :d="path(edge.needle)" class="beside" vector-effect="non-scaling-stroke" />
        </g>
      </g>
      <path :d="sewn" class="line still" vector-effect="non-scaling-stroke" />
    </g>
    <g class="still">
      <text v-for="one in numbers" :key="one.text" :x="one.x" :y="one.y" class="number">{{ one.text }}</text>
      <g v-for="(stop, k) in stops" :key="k">
        <path v-if="stop.along !== null" :d="`M${stop.needle.join(' ')}L${stop.edge.join(' ')}`" class="reach" />
        <circle v-if="stop.along !== null" :cx="stop.edge[0]" :cy="stop.edge[1]" r="4" class="dot" />
        <rect :x="stop.needle[0] - 4.5" :y="stop.needle[1] - 4.5" width="9" height="9" class="stop" />
      </g>
      <path v-for="one in spans" :key="one.kind" :d="level(one)" class="span" :class="one.kind" />
    </g>
    <g v-if="edge.needle.length" class="handle" v-on="grab('foot')">
      <circle :cx="footAt[0]" :cy="footAt[1]" :r="Math.max(radius, GRIP / 2)" fill="transparent" />
      <circle :cx="footAt[0]" :cy="footAt[1]" :r="radius" class="foot" />
      <circle :cx="footAt[0]" :cy="footAt[1]" r="2.6" class="needle" />
    </g>
    <g v-for="one in spans" :key="one.words" class="still" :transform="`translate(${label(one).x} ${label(one).y})`">
      <rect :x="-one.wide / 2" y="-13" :width="one.wide" height="26" rx="6" class="tag" :class="one.kind" />
      <text y="5" text-anchor="middle" :class="one.kind">{{ one.words }}</text>
    </g>
    <template v-for="(grip, k) in grips" :key="k">
      <g v-if="!grip.out" class="handle" :transform="`translate(${grip.x} ${grip.y})`" data-testid="grip" v-on="grab('grip')">
        <circle :r="GRIP / 2" fill="transparent" />
        <circle r="15" class="grip" />
        <path d="M-7 3a7.4 7.4 0 1 1 3 3.8M-7.6 8l.2-5.6 5.2 1.6" class="turn" />
      </g>
    </template>
  </g>
</template>

<style scoped>
.still { pointer-events: none; }
.body { fill: #2f9c95; fill-opacity: .27; stroke: #1f6f69; stroke-width: 1.5; cursor: grab; touch-action: none; }
.body:active { cursor: grabbing; fill-opacity: .36; }
.etched, .other { stroke: #1f6f69; stroke-width: .9; stroke-opacity: .7; }
.other { stroke-dasharray: 2 4; stroke-opacity: .6; }
.etched.on, .edge.on { stroke: #0f4d48; stroke-width: 3.6; stroke-opacity: 1; }
.edge { stroke: #1f6f69; stroke-width: 2.4; }
.dead { stroke: #a8392c; stroke-width: 5; }
.beside { stroke: #a8392c; stroke-width: 1.2; stroke-dasharray: 2 4; }
.line { stroke: #a8392c; stroke-width: 3; stroke-dasharray: 13 5; }
.number { font-size: 13px; fill: #14514c; text-anchor: middle; dominant-baseline: central; paint-order: stroke; stroke: #fffcf6; stroke-width: 3.5px; }
.handle { cursor: grab; touch-action: none; }
.foot { fill: #fff6f3; fill-opacity: .7; stroke: #a8392c; stroke-width: 2.4; }
.needle { fill: #a8392c; }
.reach { stroke: #0f4d48; stroke-width: 1.4; stroke-dasharray: 2 3; fill: none; }
.dot { fill: #fff; stroke: #0f4d48; stroke-width: 2; }
.stop { fill: #fff; stroke: #a8392c; stroke-width: 2; }
.span { fill: none; stroke-width: 2; }
.span.mark { stroke: #0f4d48; }
.span.foot { stroke: #6b4a05; fill: none; }
.span.sewn { stroke: #a8392c; }
.tag { fill: #fffcf6; }
.tag.mark { stroke: #1f6f69; }
.tag.foot { stroke: #b9820f; fill: #fffcf6; fill-opacity: 1; stroke-width: 1; }
.tag.sewn { stroke: #a8392c; }
text.mark, text.foot, text.sewn { font-size: 14px; font-weight: 700; stroke: none; }
text.mark { fill: #14514c; }
text.foot { fill: #6b4a05; fill-opacity: 1; }
text.sewn { fill: #a8392c; }
.grip { fill: #fffcf6; stroke: #1f6f69; stroke-width: 2; }
.turn { fill: none; stroke: #1f6f69; stroke-width: 2; stroke-linecap: round; }
</style>
