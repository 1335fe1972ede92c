<script setup lang="ts">
/** A station: the quilt (or what stands for it) at the left, the panel at the right. On a narrow screen the panel is a sheet below the
 * quilt: it is drawn up and down by its handle. */
import { useLocalStorage, useMediaQuery } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import TallyBar from './TallyBar.vue'
import { useQuilt } from '../state/quilt'
import { tr } from '../texts'

/** `wide`: the left side needs the room, so the sheet rests low until it is drawn up. */
const props = defineProps<{ wide?: boolean }>()
/** The share of the page that the sheet covers: a strip, half, nearly all. */
const STOPS = [0.16, 0.46, 0.86]
const quilt = useQuilt()
const narrow = useMediaQuery('(max-width: 900px)')
const phone = useMediaQuery('(max-width: 600px)')
const kept = useLocalStorage('kenzet-sheet', STOPS[1]!)
const low = ref(STOPS[0]!)
watch(() => props.wide, () => (low.value = STOPS[0]!))
const share = computed({
  get: () => (props.wide ? low.value : kept.value),
  set: (to) => { if (props.wide) low.value = to; else kept.value = to },
})
const page = ref<HTMLElement>()
const drawn = ref<number>()
const height = computed(() => drawn.value ?? share.value)
const nearest = (to: number) => STOPS.reduce((best, stop) => (Math.abs(stop - to) < Math.abs(best - to) ? stop : best))
let from: { y: number; share: number; moved: boolean } | undefined

function grab(event: PointerEvent) {
  from = { y: event.clientY, share: share.value, moved: false }
  const handle = event.currentTarget as HTMLElement
  handle.setPointerCapture?.(event.pointerId)
}
function pull(event: PointerEvent) {
  if (!from || !page.value) return
  if (Math.abs(event.clientY - from.y) > 6) from.moved = true
  if (from.moved) drawn.value = Math.min(Math.max(from.share + (from.y - event.clientY) / page.value.clientHeight, STOPS[0]!), STOPS[2]!)
}
function let_go() {
  if (from?.moved && drawn.value !== undefined) share.value = nearest(drawn.value)
  drawn.value = undefined
}
/** without a drag: one stop up, and from the top down again */
function press() {
  if (from?.moved) return (from = undefined)
  from = undefined
  share.value = STOPS[(STOPS.indexOf(nearest(share.value)) + 1) % STOPS.length]!
}
</script>

<template>
  <div ref="page" class="page" :style="narrow ? { '--sheet': `${100 * height}%` } : undefined">
    <div class="table"><slot /></div>
    <aside class="panel" :aria-label="tr('What is chosen')">
      <button v-if="narrow" class="handle" :aria-label="tr('Draw the panel up or down')" data-testid="sheet-handle" @pointerdown="grab" @pointermove="pull" @pointerup="let_go" @pointercancel="let_go" @click="press"><i /></button>
      <slot name="panel" />
      <TallyBar v-if="phone && quilt.view" class="totals" />
    </aside>
  </div>
</template>

<style scoped>
.page { display: grid; grid-template-columns: minmax(0, 1fr) 364px; height: 100%; }
.table { min-width: 0; min-height: 0; position: relative; }
.panel { position: relative; background: var(--paper); border-left: 1px solid var(--rule); padding: 14px 18px; overflow: hidden auto; display: flex; flex-direction: column; gap: 12px; min-width: 0; }
@media (max-width: 1100px) { .page { grid-template-columns: minmax(0, 1fr) 340px; } }
@media (max-width: 900px) {
  .page { grid-template: minmax(0, 1fr) var(--sheet, 46%) / minmax(0, 1fr); }
  .panel { border-left: 0; padding-top: 0; border-radius: 18px 18px 0 0; box-shadow: 0 -3px 12px rgb(30 39 51 / .18); z-index: 2; overscroll-behavior: contain; }
  .handle { position: sticky; top: 0; z-index: 3; flex: none; display: grid; place-items: center; height: 30px; margin: 0 -18px -8px; border: 0; background: var(--paper); touch-action: none; cursor: grab; }
  .handle::before { content: ''; position: absolute; inset: -8px 0; }
  .handle i { width: 44px; height: 5px; border-radius: 3px; background: var(--rule); }
}
.totals { margin: auto -18px -14px; }
</style>
