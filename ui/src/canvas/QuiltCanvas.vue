<script setup lang="ts">
/** The quilt to scale between two tape measures: patches, stitches, the chosen zone, the ruler, the marks. */
import { computed, ref, shallowRef, watch } from 'vue'
import type { Light, Unit, Views } from '../api/client'
import { typed, usePressed } from '../parts/pressed'
import MarksOverlay from './MarksOverlay.vue'
import type { Marked } from './marked'
import RulerOverlay from './RulerOverlay.vue'
import TapeMeasure from './TapeMeasure.vue'
import { closedPath, nearest, openPath } from './paths'
import { useCamera } from './camera'
import { lay, ringsOf, seatAt, spotAt, type Spot } from './scene'
import { useSurface } from './surface'
import { matrix, placed, toQuilt, toScreen, unplaced, type Box } from './view'
import { counted, tr } from '../texts'

const props = defineProps<{
  quilt: Views['QuiltView']
  unit: Unit
  zone?: string
  place?: string
  /** which of its fills, 0 or the one on top */
  layer?: number
  ruler?: Views['RulerView']
  /** the widest gap of the zone, if it is too wide */
  gap?: Views['GapView'] | null
  /** edges with a sliver: x0, y0, x1, y1 */
  slivers?: number[][]
  /** what is marked; the rest is shown faintly */
  marks?: Marked
  /** what is to be marked in this step */
  now?: InstanceType<typeof MarksOverlay>['$props']['now']
  /** the round of tape, or placement of the stencil, that is shown */
  round?: number
  ticks?: Views['EdgeView'][]
  tickedEdge?: number
  /** what can be clicked now in place of patches and lines */
  picks?: { kind: 'edge' | 'corner' | 'point'; spots: Views['Spot'][]; taken?: number[] }
  /** patches (place/patch) selected to become a zone */
  chosen?: string[]
  /** zones have visible outlines */
  showZones?: boolean
  /** highlighted places */
  held?: string[]
  /** with a selected block a drag goes over places instead of moving the quilt */
  painting?: boolean
  /** a preview of outlines, in the coordinates of the part at a place */
  tried?: { place: string; rings: number[][] }
  /** single patches can be clicked */
  pointing?: boolean
  /** nothing is dimmed, whatever is chosen */
  open?: boolean
  /** a place to zoom in on */
  seen?: string
  /** the plan's lines are faint below what lies over them */
  faint?: boolean
  /** the relief of the quilted cloth can be shown */
  cloth?: boolean
  /** the density map can be shown */
  mapped?: boolean
  /** where the light comes from */
  light?: Light
  /** a highlighted spot of the quilt: x, y and radius, mm */
  ring?: { x: number; y: number; radius: number }
}>()
/** What is drawn over the plan: the relief, or the density map. */
const raised = defineModel<'' | 'relief' | 'density'>('raised', { default: '' })
const emit = defineEmits<{
  patch: [zone: string, place: string]
  point: [spot: Spot, more: boolean, at: number]
  over: [place: string, first: boolean]
  done: []
  line: [number: number, side: number]
  spot: [index: number]
  edge: [index: number]
  none: []
}>()

const NEAR_PX = 9
const STITCH_MM = 2.5

const pane = ref<HTMLElement>()
const surface = ref<HTMLCanvasElement>()
const whole = computed<Box>(() => ({ left: 0, bottom: 0, right: props.quilt.width, top: props.quilt.height }))
const laid = computed(() => lay(props.quilt.parts))
const info = computed(() => props.quilt.zones.find((zone) => zone.key === props.zone))
const shape = computed(() => info.value?.shapes.find((s) => s.places.includes(props.place ?? '')) ?? info.value?.shapes[0])
const item = computed(() => {
  if (!shape.value) return undefined
  const wanted = shape.value.places.includes(props.place ?? '') ? props.place : shape.value.places[0]
  return laid.value.find((l) => l.place === wanted)
})
/** the placing of the current zone; a zone across the quilt is in the quilt's own coordinates */
const at = computed(() => item.value?.at ?? (shape.value ? [1, 0, 0, 1, 0, 0] : undefined))
const times = computed(() => info.value?.shapes.reduce((sum, s) => sum + s.places.length, 0) ?? 0)
const seenBox = computed(() => laid.value.find((one) => one.place === props.seen)?.box)
const here = computed<Box | undefined>(() => seenBox.value ?? item.value?.box ?? (shape.value ? whole.value : undefined))
const { width, height, view, grabbing, local, fitAll, fitZone, zoomBy, pan, seek, close, wheel, down, move, up } = useCamera(
  pane, whole, here, click,
)
const drawing = computed(() => {
  const drawings = (info.value?.drawings ?? []).filter((d) => d.layer === (props.layer ?? 0))
  return drawings.find((d) => d.places.includes(props.place ?? '')) ?? (props.place ? undefined : drawings[0])
})
const outline = computed(() => closedPath(shape.value?.rings ?? []))
const veil = computed(() => {
  if (!here.value || times.value < 2 || props.open) return ''
  const { left, right, bottom, top } = here.value
  const far = 1e5
  return `M${-far} ${-far}H${far}V${far}H${-far}ZM${left} ${bottom}V${top}H${right}V${bottom}Z`
})
const world = computed(() => `matrix(${view.value.scale} 0 0 ${-view.value.scale} ${view.value.x} ${view.value.y})`)
const zero = computed<[number, number]>(() => {
  const box = here.value && times.value > 1 && !props.open ? here.value : whole.value
  return toScreen(view.value, box.left, box.top)
})
const described = computed(() => {
  const zone = info.value
  const all = counted(props.quilt.zones.length, '{name}, one zone. ', '{name}, {count} zones. ', { name: props.quilt.name })
  if (!zone) return tr('{all}No zone is selected.', { all })
  const count = drawing.value ? drawing.value.lines.length + drawing.value.paths.length : 0
  return `${all}${zone.name}: ${zone.fill ? counted(count, '{fill}, one line here', '{fill}, {count} lines here', { fill: zone.fill }) : 'unquilted'}.`
})
const chosenPaths = computed(() => ringsOf(laid.value, props.chosen ?? []).map((c) => ({ at: c.at, path: closedPath(c.rings) })))
const brushed = computed(() => laid.value.filter((l) => props.held?.includes(l.place)))
const triedAt = computed(() => laid.value.find((l) => l.place === props.tried?.place)?.at ?? [1, 0, 0, 1, 0, 0])
const hover = shallowRef<Spot>()
const hoverPath = computed(() => (hover.value ? ringsOf(laid.value, [hover.value.ref])[0] : undefined))

useSurface(surface, {
  size: () => ({ width: width.value, height: height.value }),
  view: () => view.value,
  quilt: () => props.quilt,
  laid: () => laid.value,
  zone: () => props.zone ?? '',
  faint: () => !!props.marks || !!props.faint,
  showZones: () => !!props.showZones,
  stitchMm: STITCH_MM,
})

function spotOnScreen(points: number[]) {
  const out: string[] = []
  for (let k = 0; k < points.length; k += 2) out.push(toScreen(view.value, ...placed(at.value!, points[k]!, points[k + 1]!)).join(' '))
  return out
}

// tick labels that would touch are left out; the list in the panel has all of them
const tickLabels = computed(() =>
  (props.ticks ?? []).map((edge) => {
    const ends = spotOnScreen(edge.points).map((p) => p.split(' ').map(Number)) as [number, number][]
    const [[x0, y0], [x1, y1]] = [ends[0]!, ends[1]!]
    const long = Math.hypot(x1 - x0, y1 - y0) || 1
    const normal: [number, number] = [-(y1 - y0) / long, (x1 - x0) / long]
    return { line: `M${x0} ${y0}L${x1} ${y1}`, ticks: edge.ticks.map((t) => spotOnScreen(t.points)[0]!.split(' ').map(Number) as [number, number]), normal }
  }),
)

/** Zoom in on a place in the coordinates of the current zone. */
function look(spot: number[]) {
  if (at.value) close(...placed(at.value, spot[0]!, spot[1]!))
}
/** The relief in place of the lines: a coarse picture at once, a fine one when it is ready. */
const fine = ref('')
const reliefOf = (long: number) => `/api/quilts/${props.quilt.id}/relief.jpg?long=${long}&light=${encodeURIComponent(props.light ?? 'upper left')}&revision=${props.quilt.version}`
const pictures = computed(() => {
  if (raised.value === 'density' && props.mapped) return [`/api/quilts/${props.quilt.id}/density.png?revision=${props.quilt.version}`]
  if (raised.value !== 'relief' || !props.cloth) return []
  return [reliefOf(330), ...(fine.value === reliefOf(1320) ? [fine.value] : [])]
})
watch([raised, () => props.quilt.version, () => props.quilt.id, () => props.light], () => {
  if (raised.value !== 'relief' || !props.cloth) return
  const wanted = reliefOf(1320)
  const picture = new Image()
  picture.onload = () => (fine.value = wanted)
  picture.src = wanted
}, { immediate: true })
const turn = (to: 'relief' | 'density', may?: boolean) => { if (may) raised.value = raised.value === to ? '' : to }
const turnRelief = () => turn('relief', props.cloth)
const turnDensity = () => turn('density', props.mapped)
defineExpose({ fitAll, fitZone, zoomBy, pan, look, close, turnRelief, turnDensity })
watch(() => props.quilt.id, () => fitAll(false))
watch([() => props.quilt.width, () => props.quilt.height], () => fitAll()) // only if they have changed
watch(() => [props.zone, props.place], () => { if (!props.open) seek() })
watch(() => props.seen, () => (seenBox.value ? fitZone() : fitAll()))

const under = (event: PointerEvent) => {
  const [x, y] = toQuilt(view.value, ...local(event))
  return { x, y, spot: spotAt(laid.value, props.quilt.zones, x, y) }
}
function click(event: PointerEvent, more: boolean) {
  if (props.picks || props.painting) return
  const hit = lineAt(...local(event))
  if (hit) return emit('line', hit.number, hit.side)
  const { spot } = under(event)
  if (!spot) return emit('none')
  emit('point', spot, more, event.timeStamp)
  if (spot.zone) emit('patch', spot.zone, spot.place)
}
function lineAt(px: number, py: number) {
  if (!drawing.value || !at.value || props.marks || props.open) return undefined
  const [qx, qy] = toQuilt(view.value, px, py)
  const [x, y] = unplaced(at.value, qx, qy)
  const found = nearest(drawing.value, x, y)
  return found && found.away * view.value.scale < NEAR_PX ? found : undefined
}

// with a selected block a drag places it; otherwise it moves the quilt
let stroking = false
function press(event: PointerEvent) {
  if (!props.painting || event.button !== 0 || event.shiftKey) return down(event)
  stroking = true
  pane.value?.setPointerCapture?.(event.pointerId)
  brushOver(event, true)
}
function drag(event: PointerEvent) {
  if (stroking) return brushOver(event, false)
  move(event)
  if (event.pointerType === 'mouse' && !grabbing.value && !props.picks) hover.value = under(event).spot
}
function release(event: PointerEvent) {
  if (!stroking) return up(event)
  stroking = false
  emit('done')
}
function brushOver(event: PointerEvent, first: boolean) {
  const { x, y } = under(event)
  const seat = seatAt(laid.value, x, y)
  if (seat) emit('over', seat, first)
}

// without a mouse: c shows a crosshair, arrows move it, Enter clicks there
const cross = ref<{ x: number; y: number }>()
const WAYS: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }
const crossAt = () => {
  const box = pane.value!.getBoundingClientRect()
  return new PointerEvent('pointerup', { clientX: box.left + cross.value!.x, clientY: box.top + cross.value!.y })
}
const underCross = computed(() => {
  if (!cross.value) return ''
  const [x, y] = toQuilt(view.value, cross.value.x, cross.value.y)
  const spot = spotAt(laid.value, props.quilt.zones, x, y)
  if (!spot) return tr('beside the quilt')
  const part = laid.value.find((l) => l.place === spot.place)?.part
  const named = props.quilt.zones.find((z) => z.key === spot.zone)
  return `${part?.name}, ${spot.place.replace('-', ' ')}, ${spot.patch.replaceAll('-', ' ')}${named ? tr(', in {name}', { name: named.name }) : ''}`
})
function crossKeys(event: KeyboardEvent) {
  if (typed(event)) return
  if (event.key === 'c') {
    cross.value = cross.value ? undefined : { x: width.value / 2, y: height.value / 2 }
    if (cross.value) pane.value?.focus()
    return
  }
  if (!cross.value || document.activeElement !== pane.value) return
  const way = WAYS[event.key]
  if (way) {
    const by = event.shiftKey ? 60 : 12
    cross.value = { x: Math.min(Math.max(cross.value.x + way[0] * by, 40), width.value - 4), y: Math.min(Math.max(cross.value.y + way[1] * by, 40), height.value - 4) }
    hover.value = props.painting ? undefined : under(crossAt()).spot
  } else if (event.key === 'Enter' && props.painting) {
    brushOver(crossAt(), true)
    emit('done')
  } else if (event.key === 'Enter') click(crossAt(), event.shiftKey)
  else return void (event.key === 'Escape' && (cross.value = undefined))
  event.preventDefault()
  event.stopImmediatePropagation()
}
usePressed(crossKeys, true)
</script>

<template>
  <div
    ref="pane" tabindex="-1" class="pane" :class="{ grabbing, picking: picks, brushing: painting, over: hover && !picks }" data-testid="canvas"
    :data-view="`${view.scale} ${view.x} ${view.y}`"
    @wheel.prevent="wheel" @contextmenu.prevent @pointerdown="press" @pointermove="drag" @pointerup="release" @pointercancel="release"
    @pointerleave="(event) => { hover = undefined; if (!stroking) up(event) }"
  >
    <canvas ref="surface" :style="{ width: `${width}px`, height: `${height}px` }" aria-hidden="true" />
    <svg :width="width" :height="height" role="img" :aria-label="described">
      <g :transform="world" fill="none" class="still">
        <image v-for="src in pictures" :key="src" :href="src" :width="quilt.width" :height="quilt.height" :transform="`matrix(1 0 0 -1 0 ${quilt.height})`" preserveAspectRatio="none" :data-testid="raised" />
        <circle v-if="ring" :cx="ring.x" :cy="ring.y" :r="ring.radius" fill="#a8392c" fill-opacity=".12" stroke="#a8392c" stroke-width="2.5" stroke-dasharray="6 4" vector-effect="non-scaling-stroke" data-testid="ring" />
        <path v-if="veil" :d="veil" class="veil" fill-opacity=".62" fill-rule="evenodd" />
        <path
          v-if="hoverPath && !picks && pointing" :d="closedPath(hoverPath.rings)" :transform="matrix(hoverPath.at)"
          stroke="#fffcf6" stroke-width="3" stroke-opacity=".8" vector-effect="non-scaling-stroke"
        />
        <path
          v-for="(one, k) in chosenPaths" :key="k" :d="one.path" :transform="matrix(one.at)" class="chosen" fill="#2b3a67" fill-opacity=".2"
          fill-rule="evenodd" stroke="#2b3a67" stroke-width="2.5" stroke-linejoin="round" vector-effect="non-scaling-stroke"
        />
        <path
          v-for="one in brushed" :key="one.place" :d="`M0 0H${one.part.width}V${one.part.height}H0Z`" :transform="matrix(one.at)"
          fill="#2b3a67" fill-opacity=".16" stroke="#2b3a67" stroke-width="3" vector-effect="non-scaling-stroke"
        />
        <path v-if="tried" :d="closedPath(tried.rings)" :transform="matrix(triedAt)" stroke="#a8392c" stroke-width="2.5" stroke-dasharray="9 5" vector-effect="non-scaling-stroke" />
        <g v-if="outline && at" :transform="matrix(at)">
          <path :d="outline" stroke="#2b3a67" stroke-width="2" stroke-linejoin="round" vector-effect="non-scaling-stroke" />
          <path v-for="(edge, k) in slivers" :key="k" :d="openPath(edge)" class="sliver" stroke="#b9820f" stroke-width="6" stroke-opacity=".55" stroke-linecap="round" vector-effect="non-scaling-stroke" />
          <circle v-if="gap" :cx="gap.x" :cy="gap.y" :r="gap.radius" fill="#a8392c" fill-opacity=".12" stroke="#a8392c" stroke-width="1.6" stroke-dasharray="5 4" vector-effect="non-scaling-stroke" />
          <MarksOverlay v-if="marks" :marks="marks" :round="round" :now="now" :scale="view.scale" />
        </g>
      </g>
      <g v-if="ticks" class="ticks">
        <g v-for="(edge, k) in tickLabels" :key="k" :class="{ chosen: k === tickedEdge }">
          <path v-if="k === tickedEdge" :d="edge.line" stroke-width="3" />
          <path :d="edge.line" class="grab" @click.stop="emit('edge', k)" />
          <path
            v-for="(foot, n) in edge.ticks" :key="n"
            :d="`M${foot[0] - edge.normal[0] * 6} ${foot[1] - edge.normal[1] * 6}l${edge.normal[0] * 12} ${edge.normal[1] * 12}`"
          />
        </g>
      </g>
      <slot name="whole" :view="view" />
      <slot v-if="at" name="over" :view="view" :placing="at" :local="local" :width="width" :height="height" />
      <RulerOverlay v-if="ruler && at" :ruler="ruler" :placing="at" :view="view" :unit="unit" />
      <g v-if="cross" class="cross" :transform="`translate(${cross.x} ${cross.y})`"><circle r="11" /><path d="M-17 0h12M5 0h12M0 -17v12M0 5v12" /></g>
      <g v-if="picks && at" class="picks">
        <template v-for="(spot, k) in picks.spots" :key="k">
          <path v-if="picks.kind === 'edge'" :d="`M${spotOnScreen(spot.points).join('L')}`" tabindex="0" role="button" :aria-label="spot.name" @click="emit('spot', k)" @keydown.enter="emit('spot', k)"><title>{{ spot.name }}</title></path>
          <circle v-else r="9" :class="{ taken: picks.taken?.includes(k) }" :transform="`translate(${spotOnScreen(spot.points)[0]})`" tabindex="0" role="button" :aria-label="spot.name" @click="emit('spot', k)" @keydown.enter="emit('spot', k)"><title>{{ spot.name }}</title></circle>
        </template>
      </g>
    </svg>
    <p class="sr" role="status">{{ underCross }}</p>
    <TapeMeasure :unit="unit" :scale="view.scale" :zero="zero[0]" :length="width" side="top" />
    <TapeMeasure :unit="unit" :scale="view.scale" :zero="zero[1]" :length="height" side="left" />
    <div class="corner">{{ unit }}</div>
    <div class="tools" @pointerdown.stop>
      <button :title="tr('Fit the whole quilt (f)')" @click="fitAll()">{{ tr('Quilt') }}</button>
      <button v-if="veil" :title="tr('Fit this block (g)')" @click="fitZone()">{{ tr('Block') }}</button>
      <button v-if="cloth" :aria-pressed="raised === 'relief'" :title="tr('As the quilt will look, under light from the side (e)')" data-testid="turn-relief" @click="turnRelief()">{{ tr('Relief') }}</button>
      <button v-if="mapped" :aria-pressed="raised === 'density'" :title="tr('How firmly it is stitched, as a map (d)')" data-testid="turn-density" @click="turnDensity()">{{ tr('Firmness') }}</button>
      <button :title="tr('Zoom in (+)')" :aria-label="tr('Zoom in')" @click="zoomBy(1.35)">+</button>
      <button :title="tr('Zoom out (−)')" :aria-label="tr('Zoom out')" @click="zoomBy(1 / 1.35)">−</button>
    </div>
    <div class="key"><slot name="key" /></div>
  </div>
</template>

<style scoped>
.pane { position: relative; height: 100%; overflow: hidden; touch-action: none; cursor: default; user-select: none; background: var(--cloth); }
.pane.grabbing { cursor: grabbing; }
svg { display: block; position: absolute; inset: 0; }
canvas { position: absolute; inset: 0; }
.over { cursor: pointer; }
.brushing { cursor: crosshair; }
.still { pointer-events: none; }
.veil { fill: var(--muslin); }
.corner { position: absolute; left: 0; top: 0; width: 36px; height: 36px; background: var(--paper); border-right: 1px solid var(--rule); border-bottom: 1px solid var(--rule); display: grid; place-items: center; font-size: 13px; color: var(--soft); }
.tools { position: absolute; right: 8px; top: 46px; display: grid; gap: 6px; justify-items: end; }
.tools button { height: 34px; min-width: 34px; padding: 0 8px; border: 1px solid var(--rule); border-radius: 8px; background: var(--paper); cursor: pointer; font-size: 13px; color: var(--indigo); }
.tools button[aria-pressed='true'] { background: var(--indigo-fill); color: #fff; }
.tools button:hover { border-color: var(--indigo); }
.key { position: absolute; left: 44px; bottom: 6px; max-width: calc(100% - 60px); pointer-events: none; }
.ticks { fill: none; stroke: var(--weld); stroke-width: 1.6; }
.ticks .chosen { stroke: var(--weld-ink); stroke-width: 2.4; }
.ticks path { pointer-events: none; }
.ticks .grab { pointer-events: stroke; stroke: transparent; stroke-width: 14; cursor: pointer; }
.pane:focus-visible { outline: none; }
.cross { fill: none; stroke: var(--madder); stroke-width: 2; pointer-events: none; }
.picks path { stroke: var(--madder); stroke-width: 5; stroke-opacity: .55; fill: none; cursor: pointer; stroke-linecap: round; }
.picks path:hover, .picks path:focus { stroke-opacity: 1; stroke-width: 8; }
.picks circle { fill: var(--paper); stroke: var(--madder); stroke-width: 3; cursor: pointer; }
.picks circle:hover, .picks circle:focus, .picks .taken { fill: var(--madder); }
</style>
