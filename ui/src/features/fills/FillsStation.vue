<script setup lang="ts">
/** Fills: choose a zone on the quilt and a fill for it, and see where the ruler goes. */
import { computed, onBeforeUnmount, ref } from 'vue'
import { useRouter } from 'vue-router'
import CanvasKey from '../../canvas/CanvasKey.vue'
import QuiltCanvas from '../../canvas/QuiltCanvas.vue'
import StationPage from '../../parts/StationPage.vue'
import ZoneList from '../../parts/ZoneList.vue'
import { useCanvasKeys } from '../../canvas/keys'
import type { Spot } from '../../canvas/scene'
import { typed, usePressed } from '../../parts/pressed'
import { useMeeting } from '../../state/meeting'
import { useQuilt } from '../../state/quilt'
import { useTop } from '../../state/top'
import { useVariants } from '../../state/variants'
import { useZone } from '../../state/zone'
import FillGallery from './FillGallery.vue'
import FillPanel from './FillPanel.vue'
import VariantsBoard from './VariantsBoard.vue'
import { tr } from '../../texts'

const quilt = useQuilt()
const zone = useZone()
const variants = useVariants()
const top = useTop()
const meeting = useMeeting()
const router = useRouter()
const canvas = ref<InstanceType<typeof QuiltCanvas>>()
const picking = ref<{ kind: 'edge' | 'corner' | 'point'; field: string; choice: string }>()
const picks = computed(() => {
  if (!zone.plan) return undefined
  if (meeting.choosing) return { kind: 'point' as const, spots: zone.plan.features, taken: meeting.chosen }
  if (!picking.value) return undefined
  const spots = { edge: zone.plan.edges, corner: zone.plan.corners, point: zone.plan.features }[picking.value.kind]
  return { kind: picking.value.kind, spots }
})
const shows = computed(() => {
  const sliver = zone.plan?.slivers.length ? (['sliver'] as const) : []
  return zone.ruler ? (['stitches', ...sliver, 'line', 'ruler', 'foot', 'stop'] as const) : (['stitches', ...sliver] as const)
})

function spot(index: number) {
  if (meeting.choosing) return void meeting.take(index)
  const pick = picking.value
  picking.value = undefined
  if (!pick) return
  if (pick.field === 'along') void zone.setAll({ along: index, angle: 0 })
  else if (pick.kind === 'point') void zone.setAll({ [pick.field]: pick.choice, through: zone.plan?.features[index]?.share })
  else void zone.setAll({ [pick.field]: pick.choice, at: index })
}
function none() {
  if (zone.line) zone.drop()
}
/** A patch in no zone, which can become one. */
const bare = ref('')
const loose = computed(() => (zone.key ? '' : bare.value))
function point(spot: Spot) {
  bare.value = spot.zone ? '' : spot.ref
  if (!spot.zone && zone.key) choose('')
}
function makeZone() {
  top.patches = loose.value ? [loose.value] : []
  top.everywhere = true
  void router.push({ name: 'top', params: { quilt: quilt.id }, query: { page: 'zones' } })
}
function choose(key: string, place = '') {
  picking.value = undefined
  variants.close()
  void zone.choose(key, place)
}
function keys(event: KeyboardEvent) {
  if (typed(event)) return
  const does: Record<string, () => unknown> = {
    '[': () => zone.step('spacing', -1),
    ']': () => zone.step('spacing', 1),
    a: () => variants.show('gallery'),
    v: () => variants.cycle(),
    '{': () => zone.step('angle', -1),
    '}': () => zone.step('angle', 1),
    ',': () => zone.next(-1),
    '.': () => zone.next(1),
    Escape: () => {
      if (variants.open) variants.close()
      else if (meeting.choosing) meeting.end()
      else if (picking.value) picking.value = undefined
      else if (zone.line) zone.drop()
      else choose('')
    },
  }
  if (!zone.key || !does[event.key]) return
  event.preventDefault()
  void does[event.key]!()
}
usePressed(keys)
onBeforeUnmount(() => {
  variants.close()
  meeting.end()
})
useCanvasKeys(canvas)
</script>

<template>
  <StationPage v-if="quilt.view">
    <QuiltCanvas
      ref="canvas" cloth :quilt="quilt.view" :unit="quilt.unit" :zone="zone.key" :place="zone.place" :layer="zone.layer" :ruler="zone.ruler" :picks="picks" :gap="zone.plan?.gap" :slivers="zone.plan?.slivers"
      @patch="choose" @point="point" @line="zone.lay" @spot="spot" @none="none"
    >
      <template #key><CanvasKey :shows="[...shows]" /></template>
    </QuiltCanvas>
    <p v-if="picking" class="ask" role="status">
      {{ tr('Click {value} of the zone.', { value: { edge: tr('an edge'), corner: tr('a corner'), point: tr('a place') }[picking.kind] }) }}
      <v-btn class="plain" @click="picking = undefined">{{ tr('Cancel') }}</v-btn>
    </p>
    <FillGallery v-if="variants.open === 'gallery' && zone.key" />
    <VariantsBoard v-else-if="variants.open === 'pins' && zone.key" />
    <template #panel>
      <FillPanel v-if="zone.plan" @pick="(kind, field, choice) => (picking = { kind, field, choice })" @show="canvas?.look($event)" />
      <template v-else>
        <h2>{{ tr('Fills') }}</h2>
        <p v-if="zone.key && zone.wrong" class="card madder" role="alert" data-testid="zone-trouble">{{ zone.wrong.message }} <v-btn class="plain" @click="zone.choose(zone.key)">{{ tr('Try again') }}</v-btn></p>
        <p v-if="loose" class="card tip">{{ tr('This patch belongs to no zone yet.') }} <v-btn class="plain" data-testid="zone-of-patch" @click="makeZone()">{{ tr('Make a zone of it') }}</v-btn></p>
        <p v-if="!quilt.zones.length" class="card tip">{{ tr('No zones yet. Select the patches you want to quilt together.') }} <v-btn class="plain" data-testid="to-zones" @click="makeZone()">{{ tr('Choose patches') }}</v-btn></p>
        <router-link v-else-if="quilt.zones.some((one) => !one.drawings.length)" class="plain" :to="{ name: 'balance', params: { quilt: quilt.id }, query: { propose: '' } }" data-testid="to-proposals">{{ tr('Not sure what to quilt? See whole plans') }}</router-link>
        <ZoneList v-if="quilt.zones.length" :zones="quilt.zones" :lead="tr('Click a patch on the quilt to choose its zone, or choose one here.')" @choose="choose" />
      </template>
    </template>
  </StationPage>
</template>

<style scoped>
/* in the strip of the key, where no edge or corner of a fitted block lies */
.ask { position: absolute; right: 12px; bottom: 4px; background: var(--paper); border: 1px solid var(--madder); border-radius: 10px; padding: 3px 14px; }
</style>
