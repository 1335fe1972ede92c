<script setup lang="ts">
/** A photograph with four corners to drag onto what it shows; arrow keys move one in small steps. */
import { computed, ref } from 'vue'
import { api, type Views } from '../api/client'
import { tr } from '../texts'

const NAMES = ['upper left', 'upper right', 'lower right', 'lower left']
const props = defineProps<{ photo: Views['PhotoView']; corners: readonly (readonly [number, number])[]; prompt: string }>()
const emit = defineEmits<{ move: [index: number, x: number, y: number] }>()
const picture = ref<SVGSVGElement>()
const spots = computed(() => props.corners.map(([x, y]) => [x * props.photo.width, y * props.photo.height] as const))
const outline = computed(() => `M${spots.value.map((spot) => spot.join(' ')).join('L')}Z`)
const grip = computed(() => Math.max(props.photo.width, props.photo.height) / 42)

let held = -1
function down(event: PointerEvent, index: number) {
  held = index
  ;(event.target as Element).setPointerCapture?.(event.pointerId)
}
function drag(event: PointerEvent) {
  const matrix = held < 0 ? null : picture.value?.getScreenCTM()
  if (!matrix) return
  const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse())
  emit('move', held, at.x / props.photo.width, at.y / props.photo.height)
}
const STEP: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }
function nudge(event: KeyboardEvent, index: number) {
  const way = STEP[event.key]
  if (!way) return
  const by = event.shiftKey ? 0.02 : 0.001
  emit('move', index, props.corners[index]![0] + way[0] * by, props.corners[index]![1] + way[1] * by)
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <div class="board" data-testid="photo-board">
    <svg ref="picture" :viewBox="`${-grip} ${-grip} ${photo.width + 2 * grip} ${photo.height + 2 * grip}`" @pointermove="drag" @pointerup="held = -1" @pointercancel="held = -1">
      <image :href="api.photoUrl(photo.id)" :width="photo.width" :height="photo.height" />
      <path :d="`M0 0H${photo.width}V${photo.height}H0Z${outline}`" fill="#1e2733" fill-opacity=".38" fill-rule="evenodd" pointer-events="none" />
      <path :d="outline" fill="none" stroke="#fffcf6" stroke-width="4" vector-effect="non-scaling-stroke" pointer-events="none" />
      <path :d="outline" fill="none" stroke="#a8392c" stroke-width="2" vector-effect="non-scaling-stroke" pointer-events="none" />
      <g
        v-for="(spot, k) in spots" :key="k" :transform="`translate(${spot[0]} ${spot[1]})`" class="corner" tabindex="0" role="slider" :aria-label="tr('{names} corner', { names: tr(NAMES[k]!) })"
        :aria-valuenow="Math.round(corners[k]![0] * 1000)" :aria-valuetext="tr('{corners} % across, {corners2} % down', { corners: Math.round(corners[k]![0] * 100), corners2: Math.round(corners[k]![1] * 100) })"
        :data-testid="`corner-${k}`" @pointerdown="down($event, k)" @keydown="nudge($event, k)"
      >
        <circle :r="grip" />
        <path :d="`M${-grip / 2} 0H${grip / 2}M0 ${-grip / 2}V${grip / 2}`" />
      </g>
    </svg>
    <p class="prompt" role="status">{{ tr('{prompt} · arrow keys move it finely', { prompt }) }}</p>
  </div>
</template>

<style scoped>
.board { position: relative; height: 100%; background: var(--cloth); padding: 12px; }
svg { display: block; width: 100%; height: 100%; touch-action: none; }
.corner { cursor: move; }
.corner circle { fill: #fffcf6; fill-opacity: .55; stroke: #a8392c; stroke-width: 2.5; vector-effect: non-scaling-stroke; }
.corner path { stroke: #a8392c; stroke-width: 1.5; vector-effect: non-scaling-stroke; }
.corner:hover circle, .corner:focus circle { fill-opacity: .85; }
.prompt { position: absolute; left: 16px; bottom: 12px; padding: 3px 14px; border: 1px solid var(--rule); border-radius: 10px; background: rgb(255 252 246 / 94%); font-size: 13px; }
</style>
