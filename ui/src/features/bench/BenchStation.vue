<script setup lang="ts">
/** The ruler bench: a ruler on the block, to try before touching fabric. */
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import CanvasKey from '../../canvas/CanvasKey.vue'
import { useCanvasKeys } from '../../canvas/keys'
import QuiltCanvas from '../../canvas/QuiltCanvas.vue'
import { placed, type Placing } from '../../canvas/view'
import StationPage from '../../parts/StationPage.vue'
import ZoneList from '../../parts/ZoneList.vue'
import { typed, usePressed } from '../../parts/pressed'
import { useBench } from '../../state/bench'
import { useQuilt } from '../../state/quilt'
import { useZone } from '../../state/zone'
import BenchPanel from './BenchPanel.vue'
import CurvePicks from './CurvePicks.vue'
import NudgePad from './NudgePad.vue'
import RulerOnCloth from './RulerOnCloth.vue'
import { tr } from '../../texts'

const BIG = 8
const quilt = useQuilt()
const zone = useZone()
const bench = useBench()
const router = useRouter()
const canvas = ref<InstanceType<typeof QuiltCanvas>>()

const at = computed<Placing>(() => {
  const part = (quilt.view?.parts ?? []).find((one) => one.places.some((seat) => seat.id === bench.view?.place))
  return part?.places.find((seat) => seat.id === bench.view?.place)?.at ?? [1, 0, 0, 1, 0, 0]
})
/** A small step to the right and up as seen on the screen, whichever way the block is turned. */
function nudge(right: number, up: number, times = 1) {
  const [a, b, c, d] = at.value as [number, number, number, number]
  const step = (bench.view?.nudge ?? 0) * times
  bench.nudge((a * right + b * up) * step, (c * right + d * up) * step)
}
/** A mirrored block turns the other way on the screen. */
const turns = computed(() => {
  const [ox, oy] = placed(at.value, 0, 0)
  const [ux, uy] = placed(at.value, 1, 0)
  const [vx, vy] = placed(at.value, 0, 1)
  return (ux - ox) * (vy - oy) - (uy - oy) * (vx - ox) > 0 ? 1 : -1
})
function keys(event: KeyboardEvent) {
  if (typed(event)) return
  const times = event.shiftKey ? BIG : 1
  const does: Record<string, () => unknown> = {
    ArrowLeft: () => nudge(-1, 0, times),
    ArrowRight: () => nudge(1, 0, times),
    ArrowUp: () => nudge(0, 1, times),
    ArrowDown: () => nudge(0, -1, times),
    r: () => bench.turn(15 * turns.value),
    R: () => bench.turn(-15 * turns.value),
    '[': () => bench.turn(turns.value),
    ']': () => bench.turn(-turns.value),
    x: () => bench.flip(),
    ',': () => bench.next(-1),
    '.': () => bench.next(1),
    ' ': () => bench.next(1),
    l: () => bench.layWith(),
    k: () => bench.keep(),
    Escape: () => (bench.picking ? (bench.picking = false) : router.push({ name: 'kit', params: { quilt: quilt.id } })),
  }
  if (!bench.view || !does[event.key]) return
  if (event.key === ' ' && (event.target as HTMLElement).closest('button, a')) return
  event.preventDefault()
  event.stopImmediatePropagation()
  void does[event.key]!()
}
// before the canvas: here the arrow keys move the ruler, not the quilt
usePressed(keys, true)
watch(() => [zone.key, zone.place, quilt.taken, quilt.unit], () => void bench.look(), { immediate: true })
watch(() => zone.key, () => zone.drop(), { immediate: true })
useCanvasKeys(canvas)
const choose = (key: string, place = '') => void zone.choose(key, place)
</script>

<template>
  <StationPage v-if="quilt.view">
    <QuiltCanvas
      ref="canvas" :quilt="quilt.view" :unit="quilt.unit" :zone="zone.key" :place="zone.place" :layer="zone.layer"
      @patch="choose" @line="bench.choose"
    >
      <template v-if="bench.view && bench.edge" #over="over">
        <RulerOnCloth v-bind="over" :unit="quilt.unit" />
        <CurvePicks v-bind="over" />
      </template>
      <template #key><CanvasKey :shows="['stitches', 'line', 'ruler', 'foot', 'stop']" /></template>
    </QuiltCanvas>
    <p v-if="bench.picking" class="ask" role="status">
      {{ [tr('Click one end of the curve.'), tr('Click its other end.'), tr('Click the curve where it is furthest from the line between them.')][bench.picked.length % 3] }}
      <v-btn class="plain" @click="bench.picking = false">{{ tr('Cancel') }}</v-btn>
    </p>
    <template #panel>
      <BenchPanel v-if="bench.view" :placing="at"><NudgePad @nudge="nudge" @turn="(by) => bench.turn(by * turns)" @flip="bench.flip()" /></BenchPanel>
      <template v-else>
        <header class="between"><h2>{{ tr('Ruler bench') }}</h2><router-link class="plain" :to="{ name: 'kit', params: { quilt: quilt.id } }">{{ tr('All tools') }}</router-link></header>
        <p v-if="bench.wrong" class="card madder" role="alert">{{ bench.wrong.message }}</p>
        <ZoneList v-if="!zone.key || bench.wrong" :zones="quilt.zones" :chosen="zone.key" :lead="tr('Try a ruler before you touch fabric: click a zone on the quilt, or choose one here.')" @choose="choose" />
      </template>
    </template>
  </StationPage>
</template>

<style scoped>
.ask { position: absolute; right: 12px; bottom: 4px; background: var(--paper); border: 1px solid var(--madder); border-radius: 10px; padding: 3px 14px; }
</style>
