<script setup lang="ts">
/** Top: arrange the quilt top, place and color its blocks, and make zones. */
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import QuiltCanvas from '../../canvas/QuiltCanvas.vue'
import { useCanvasKeys } from '../../canvas/keys'
import type { Spot } from '../../canvas/scene'
import StationPage from '../../parts/StationPage.vue'
import { typed, usePressed } from '../../parts/pressed'
import { useDrawing } from '../../state/drawing'
import { useCutting } from '../../state/cutting'
import { usePhoto } from '../../state/photo'
import { useQuilt } from '../../state/quilt'
import { useTop } from '../../state/top'
import { useZone } from '../../state/zone'
import BlocksPage from './BlocksPage.vue'
import DrawBoard from './DrawBoard.vue'
import DrawPage from './DrawPage.vue'
import FabricsPage from './FabricsPage.vue'
import LayoutPage from './LayoutPage.vue'
import CornerBoard from '../../parts/CornerBoard.vue'
import PhotoPage from './PhotoPage.vue'
import QuiltPage from './QuiltPage.vue'
import ZonesPage from './ZonesPage.vue'
import { counted, tr } from '../../texts'

const PAGES = [
  ['layout', tr('Setting')],
  ['blocks', tr('Blocks')],
  ['fabrics', tr('Fabrics')],
  ['zones', tr('Zones')],
  ['photo', tr('Photo')],
  ['quilt', tr('Quilt')],
] as const
type Page = (typeof PAGES)[number][0]

const route = useRoute()
const router = useRouter()
const quilt = useQuilt()
const top = useTop()
const zone = useZone()
const cutting = useCutting()
const drawing = useDrawing()
const photo = usePhoto()
const canvas = ref<InstanceType<typeof QuiltCanvas>>()
const blocksPage = ref<InstanceType<typeof BlocksPage>>()
const tried = ref<{ place: string; rings: number[][] }>()
const page = computed<Page>({
  get: () => PAGES.find(([key]) => key === route.query.page)?.[0] ?? 'layout',
  set: (key) => void router.replace({ query: { page: key } }),
})
const painting = computed(() => page.value === 'blocks' && !!top.brush)
const held = computed(() => (painting.value ? top.stroke : page.value === 'blocks' && top.place ? [top.place] : undefined))
const onZones = computed(() => page.value === 'zones')
const prompt = computed(() => {
  if (page.value === 'blocks') return painting.value ? tr('Drag to place the block · Shift-drag moves the quilt · Esc deselects') : ''
  if (cutting.picks) return ''
  if (onZones.value) return tr('Click a patch · Shift-click or a long press adds · double-click selects all like it')
  if (page.value === 'fabrics' && top.fabric) return tr('Click a patch to change its fabric · Shift-click or a long press changes all of that fabric')
  return ''
})

watch(() => cutting.points.length, (many) => { if (many) canvas.value?.fitZone() })
watch(page, () => {
  top.brush = undefined
  top.drop()
  top.wrong = undefined
  drawing.close()
  photo.close()
  if (!onZones.value) void zone.choose('')
})

let last = { ref: '', at: 0 }
function point(spot: Spot, more: boolean, at: number) {
  if (page.value === 'blocks') {
    const cell = top.view?.cells.find((c) => c.place === spot.place)
    top.place = cell ? spot.place : ''
    top.block = cell?.block ?? ''
  } else if (page.value === 'fabrics' && top.fabric) {
    void top.change('fabric', { kind: 'cloth', ref: spot.ref, fabric: top.fabric, alike: more })
  } else if (onZones.value) {
    const twice = last.ref === spot.ref && at - last.at < 420
    last = { ref: spot.ref, at }
    if (zone.key) void zone.choose('')
    void top.point(spot.ref, twice ? 'alike' : 'patch', more)
  }
}
function over(place: string, first: boolean) {
  if (first) top.stroke = [place]
  else if (!top.stroke.includes(place)) top.stroke = [...top.stroke, place]
}
function keys(event: KeyboardEvent) {
  if (typed(event)) return
  if (event.key === 'Escape') {
    if (drawing.open) drawing.drop()
    else if (top.brush) top.brush = undefined
    else if (top.patches.length) top.drop()
    else if (zone.key) void zone.choose('')
    else top.place = top.fabric = ''
  } else if (event.key === 'r') blocksPage.value?.turn(1, false)
  else if (event.key === 'm') blocksPage.value?.turn(0, true)
  else return
  event.preventDefault()
}
usePressed(keys)
onBeforeUnmount(() => {
  drawing.close()
  photo.close()
  top.brush = undefined
})
useCanvasKeys(canvas)
</script>

<template>
  <StationPage v-if="quilt.view">
    <DrawBoard v-if="drawing.view" />
    <CornerBoard v-else-if="photo.taken" :photo="photo.taken" :corners="photo.corners" :prompt="tr('Drag each corner onto that corner of the {place}', { place: photo.place === 'top' ? tr('quilt top') : 'block' })" @move="photo.move" />
    <QuiltCanvas
      v-else ref="canvas" cloth :quilt="quilt.view" :unit="quilt.unit" open :zone="onZones ? zone.key : ''" :place="zone.place" :chosen="onZones ? top.patches : undefined"
      :show-zones="onZones" :pointing="onZones || (page === 'fabrics' && !!top.fabric)" :held="held" :painting="painting" :tried="tried" :picks="cutting.picks"
      @point="point" @over="over" @done="top.paint()" @none="top.drop()" @spot="cutting.pick"
    >
      <template #key><p v-if="prompt" class="prompt">{{ prompt }}</p></template>
    </QuiltCanvas>
    <template #panel>
      <nav class="pages" :aria-label="tr('Pages of the top')">
        <button v-for="[key, label] in PAGES" :key="key" :aria-current="page === key ? 'page' : undefined" :data-testid="`page-${key}`" @click="page = key">{{ label }}</button>
      </nav>
      <p v-if="quilt.gone.length" class="card tip" role="status" data-testid="gone">
        {{ counted(quilt.gone.length, 'Gone with that: {names} and its fill.', 'Gone with that: {names} and their fills.', { names: quilt.gone.map((name) => `“${name}”`).join(', ') }) }}
        <v-btn class="plain" @click="quilt.walk('undo')">{{ tr('Undo') }}</v-btn>
      </p>
      <LayoutPage v-if="page === 'layout'" />
      <DrawPage v-else-if="drawing.open" />
      <BlocksPage v-else-if="page === 'blocks'" ref="blocksPage" @draw="drawing.begin($event)" />
      <FabricsPage v-else-if="page === 'fabrics'" />
      <PhotoPage v-else-if="page === 'photo'" />
      <ZonesPage v-else-if="page === 'zones'" @cut="tried = $event" />
      <QuiltPage v-else />
    </template>
  </StationPage>
</template>

<style scoped>
.pages { display: flex; flex-wrap: wrap; gap: 2px; border-bottom: 2px solid var(--rule); margin: -4px -4px 2px; }
.pages button { flex: 1; border: 0; background: none; padding: 7px 2px; cursor: pointer; font-size: 14px; color: var(--soft); border-bottom: 3px solid transparent; margin-bottom: -2px; }
.pages button:hover { color: var(--indigo); }
.pages button[aria-current] { color: var(--indigo); font-weight: 700; border-bottom-color: var(--madder); }
.prompt { padding: 3px 14px; border: 1px solid var(--rule); border-radius: 10px; background: rgb(255 252 246 / 94%); font-size: 13px; width: fit-content; }
</style>
