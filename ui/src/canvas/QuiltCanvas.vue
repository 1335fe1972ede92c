<script setup lang="ts">
/** The quilt to scale between two tape measures: patches, stitches, the chosen zone, the ruler, the marks. */
import { computed, ref, watch } from 'vue'
import type { Unit, Views } from '../api/client'
import RulerOverlay from './RulerOverlay.vue'
import TapeMeasure from './TapeMeasure.vue'
import { closedPath, linesPath, nearest } from './paths'
import { useCamera } from './camera'
import { boxOf, matrix, toQuilt, toScreen, unplaced, type Box } from './view'

const props = defineProps<{
  quilt: Views['QuiltView']
  unit: Unit
  zone?: string
  placing?: number
  ruler?: Views['RulerView']
  /** numbers of the lines that are drawn with a marker; the rest is shown faint */
  marked?: number[]
  ticks?: Views['EdgeView'][]
  tickedEdge?: number
  /** what may be clicked just now instead of patches and lines */
  picks?: { kind: 'edge' | 'corner'; spots: Views['Spot'][] }
}>()
const emit = defineEmits<{
  patch: [zone: string, placing: number]
  line: [number: number, side: number]
  spot: [index: number]
  edge: [index: number]
  none: []
}>()

const NEAR_PX = 9
const STITCH_MM = 2.5

const pane = ref<HTMLElement>()
const whole = computed<Box>(() => ({ left: 0, bottom: 0, right: props.quilt.width, top: props.quilt.height }))
const parts = computed(() => new Map(props.quilt.parts.map((part) => [part.key, part])))
const info = computed(() => props.quilt.zones.find((zone) => zone.key === props.zone))
const part = computed(() => (info.value ? parts.value.get(info.value.part) : undefined))
const place = computed(() => part.value?.placings[props.placing ?? 0])
const here = computed<Box | undefined>(() =>
  part.value && place.value ? boxOf(place.value, part.value.width, part.value.height) : undefined,
)
const { width, height, view, grabbing, local, fitAll, fitZone, zoomBy, pan, seek, wheel, down, move, up } = useCamera(
  pane, whole, here, click,
)
const drawing = computed(() => info.value?.drawings.find((d) => d.placings.includes(props.placing ?? 0)))
const zoneOf = computed(() => {
  const found = new Map<string, string>()
  for (const zone of props.quilt.zones) for (const patch of zone.patches) found.set(`${zone.part} ${patch}`, zone.key)
  return found
})
const patches = computed(() =>
  props.quilt.parts.flatMap((p) =>
    p.patches.map((patch) => ({
      part: p.key,
      placings: p.placings,
      path: closedPath(patch.rings),
      colour: props.quilt.fabrics[patch.fabric]?.colour ?? '#cccccc',
      zone: zoneOf.value.get(`${p.key} ${patch.key}`) ?? '',
    })),
  ),
)
const outline = computed(() => {
  const keys = new Set(info.value?.patches ?? [])
  return closedPath((part.value?.patches ?? []).filter((p) => keys.has(p.key)).flatMap((p) => p.rings))
})
const sewn = computed(() =>
  props.quilt.zones.flatMap((zone) =>
    zone.drawings.map((d, k) => ({
      key: `${zone.key}-${k}`,
      chosen: zone.key === props.zone,
      path: linesPath(d),
      placings: d.placings.map((n) => parts.value.get(zone.part)?.placings[n]).filter((p) => p !== undefined),
    })),
  ),
)
const markedPath = computed(() => (props.marked && drawing.value ? linesPath(drawing.value, new Set(props.marked)) : ''))
const dash = computed(() => {
  const stitch = STITCH_MM * view.value.scale
  return stitch < 3.2 ? 'none' : `${(stitch * 0.74).toFixed(2)} ${(stitch * 0.26).toFixed(2)}`
})
const veil = computed(() => {
  if (!here.value || !part.value || part.value.placings.length < 2) return ''
  const { left, right, bottom, top } = here.value
  const far = 1e5
  return `M${-far} ${-far}H${far}V${far}H${-far}ZM${left} ${bottom}V${top}H${right}V${bottom}Z`
})
const world = computed(() => `matrix(${view.value.scale} 0 0 ${-view.value.scale} ${view.value.x} ${view.value.y})`)
const zero = computed<[number, number]>(() => {
  const box = here.value && (part.value?.placings.length ?? 0) > 1 ? here.value : whole.value
  return toScreen(view.value, box.left, box.top)
})
const described = computed(() => {
  const zone = info.value
  const all = `${props.quilt.name}, ${props.quilt.zones.length} zones. `
  if (!zone) return `${all}No zone is chosen.`
  const count = drawing.value ? drawing.value.lines.length + drawing.value.rings.length : 0
  return `${all}${zone.name}: ${zone.fill ? `${zone.fill}, ${count} lines here` : 'left open'}.`
})

function spotAt(points: number[]) {
  const at = place.value!
  const out: string[] = []
  for (let k = 0; k < points.length; k += 2) {
    const [a, b, c, d, e, f] = at as [number, number, number, number, number, number]
    const [x, y] = [points[k]!, points[k + 1]!]
    out.push(toScreen(view.value, a * x + c * y + e, b * x + d * y + f).join(' '))
  }
  return out
}

// tick labels that would touch are left out; the list in the slip holds them all
const tickLabels = computed(() =>
  (props.ticks ?? []).map((edge) => {
    const ends = spotAt(edge.points).map((p) => p.split(' ').map(Number)) as [number, number][]
    const [[x0, y0], [x1, y1]] = [ends[0]!, ends[1]!]
    const long = Math.hypot(x1 - x0, y1 - y0) || 1
    const normal: [number, number] = [-(y1 - y0) / long, (x1 - x0) / long]
    return { line: `M${x0} ${y0}L${x1} ${y1}`, ticks: edge.ticks.map((t) => spotAt(t.points)[0]!.split(' ').map(Number) as [number, number]), normal }
  }),
)

defineExpose({ fitAll, fitZone, zoomBy, pan })
watch(() => props.quilt.id, () => fitAll(false))
watch(() => [props.zone, props.placing], () => seek())

function click(event: PointerEvent) {
  if (props.picks) return
  const [px, py] = local(event)
  const hit = lineAt(px, py)
  if (hit) return emit('line', hit.number, hit.side)
  const target = (event.target as Element).closest<SVGElement>('[data-zone]')
  if (target?.dataset.zone) emit('patch', target.dataset.zone, Number(target.dataset.placing))
  else emit('none')
}
function lineAt(px: number, py: number) {
  if (!drawing.value || !place.value || props.marked) return undefined
  const [qx, qy] = toQuilt(view.value, px, py)
  const [x, y] = unplaced(place.value, qx, qy)
  const found = nearest(drawing.value, x, y)
  return found && found.away * view.value.scale < NEAR_PX ? found : undefined
}
</script>

<template>
  <div
    ref="pane" class="pane" :class="{ grabbing, picking: picks }" data-testid="canvas"
    @wheel.prevent="wheel" @pointerdown="down" @pointermove="move" @pointerup="up" @pointercancel="up" @pointerleave="up"
  >
    <svg :width="width" :height="height" role="img" :aria-label="described">
      <g :transform="world">
        <g stroke="#8a8577" stroke-opacity=".55" stroke-width="0.8" stroke-linejoin="round">
          <template v-for="(patch, k) in patches" :key="k">
            <path
              v-for="(at, n) in patch.placings" :key="n" :d="patch.path" :transform="matrix(at)" :fill="patch.colour"
              fill-rule="evenodd" vector-effect="non-scaling-stroke" class="patch" :data-zone="patch.zone" :data-placing="n"
            />
          </template>
        </g>
        <g fill="none" class="still">
          <template v-for="set in sewn" :key="set.key">
            <path
              v-for="(at, n) in set.placings" :key="n" :d="set.path" :transform="matrix(at)" vector-effect="non-scaling-stroke"
              :stroke="marked ? '#5c6470' : '#2b3a67'" :stroke-opacity="marked ? 0.35 : set.chosen ? 1 : 0.8"
              :stroke-width="marked ? 0.9 : set.chosen ? 1.5 : 1.1" :stroke-dasharray="dash"
            />
          </template>
        </g>
        <path v-if="veil" :d="veil" fill="#f3ede0" fill-opacity=".62" fill-rule="evenodd" class="still" />
        <g v-if="outline && place" :transform="matrix(place)" fill="none" class="still">
          <path :d="outline" stroke="#2b3a67" stroke-width="2" stroke-linejoin="round" vector-effect="non-scaling-stroke" />
          <path
            v-if="markedPath" :d="markedPath" stroke="#b9820f" stroke-width="3.6" stroke-linecap="round"
            stroke-dasharray="0.1 6.4" vector-effect="non-scaling-stroke"
          />
        </g>
      </g>
      <g v-if="ticks" class="ticks">
        <g v-for="(edge, k) in tickLabels" :key="k" :class="{ chosen: k === tickedEdge }">
          <path v-if="k === tickedEdge" :d="edge.line" stroke-width="3" />
          <path :d="edge.line" class="grab" @click.stop="emit('edge', k)" />
          <path
            v-for="(at, n) in edge.ticks" :key="n"
            :d="`M${at[0] - edge.normal[0] * 6} ${at[1] - edge.normal[1] * 6}l${edge.normal[0] * 12} ${edge.normal[1] * 12}`"
          />
        </g>
      </g>
      <RulerOverlay v-if="ruler && place" :ruler="ruler" :placing="place" :view="view" :unit="unit" />
      <g v-if="picks && place" class="picks">
        <template v-for="(spot, k) in picks.spots" :key="k">
          <path v-if="picks.kind === 'edge'" :d="`M${spotAt(spot.points).join('L')}`" tabindex="0" role="button" :aria-label="spot.name" @click="emit('spot', k)" @keydown.enter="emit('spot', k)"><title>{{ spot.name }}</title></path>
          <circle v-else r="9" :transform="`translate(${spotAt(spot.points)[0]})`" tabindex="0" role="button" :aria-label="spot.name" @click="emit('spot', k)" @keydown.enter="emit('spot', k)"><title>{{ spot.name }}</title></circle>
        </template>
      </g>
    </svg>
    <TapeMeasure :unit="unit" :scale="view.scale" :zero="zero[0]" :length="width" side="top" />
    <TapeMeasure :unit="unit" :scale="view.scale" :zero="zero[1]" :length="height" side="left" />
    <div class="corner">{{ unit }}</div>
    <div class="tools" @pointerdown.stop>
      <button title="Fit the whole quilt (f)" @click="fitAll()">Quilt</button>
      <button v-if="veil" title="Fit this block (g)" @click="fitZone()">Block</button>
      <button title="Closer (+)" aria-label="Zoom closer" @click="zoomBy(1.35)">+</button>
      <button title="Further (−)" aria-label="Zoom further" @click="zoomBy(1 / 1.35)">−</button>
    </div>
    <div class="key"><slot name="key" /></div>
  </div>
</template>

<style scoped>
.pane { position: relative; height: 100%; overflow: hidden; touch-action: none; cursor: default; user-select: none; background: #f6f1e6; }
.pane.grabbing { cursor: grabbing; }
svg { display: block; position: absolute; inset: 0; }
.patch { cursor: pointer; }
.patch:hover { filter: brightness(1.04); }
.picking .patch { cursor: default; }
.still { pointer-events: none; }
.corner { position: absolute; left: 0; top: 0; width: 36px; height: 36px; background: var(--paper); border-right: 1px solid var(--rule); border-bottom: 1px solid var(--rule); display: grid; place-items: center; font-size: 13px; color: var(--soft); }
.tools { position: absolute; right: 8px; top: 46px; display: grid; gap: 6px; justify-items: end; }
.tools button { height: 34px; min-width: 34px; padding: 0 8px; border: 1px solid var(--rule); border-radius: 8px; background: var(--paper); cursor: pointer; font-size: 13px; color: var(--indigo); }
.tools button:hover { border-color: var(--indigo); }
.key { position: absolute; left: 44px; bottom: 6px; max-width: calc(100% - 60px); pointer-events: none; }
.ticks { fill: none; stroke: var(--weld); stroke-width: 1.6; }
.ticks .chosen { stroke: var(--weld-ink); stroke-width: 2.4; }
.ticks path { pointer-events: none; }
.ticks .grab { pointer-events: stroke; stroke: transparent; stroke-width: 14; cursor: pointer; }
.picks path { stroke: var(--madder); stroke-width: 5; stroke-opacity: .55; fill: none; cursor: pointer; stroke-linecap: round; }
.picks path:hover, .picks path:focus { stroke-opacity: 1; stroke-width: 8; }
.picks circle { fill: var(--paper); stroke: var(--madder); stroke-width: 3; cursor: pointer; }
.picks circle:hover, .picks circle:focus { fill: var(--madder); }
</style>
