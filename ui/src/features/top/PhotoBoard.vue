<script setup lang="ts">
/** The photograph as it was taken, with four corners to drag onto those of the quilt; arrow keys move one finely. */
import { computed, ref } from 'vue'
import { api } from '../../api/client'
import { usePhoto } from '../../state/photo'

const NAMES = ['upper left', 'upper right', 'lower right', 'lower left']
const photo = usePhoto()
const picture = ref<SVGSVGElement>()
const size = computed(() => photo.taken!)
const spots = computed(() => photo.corners.map(([x, y]) => [x * size.value.width, y * size.value.height] as const))
const outline = computed(() => `M${spots.value.map((spot) => spot.join(' ')).join('L')}Z`)
const grip = computed(() => Math.max(size.value.width, size.value.height) / 42)

let held = -1
function down(event: PointerEvent, index: number) {
  held = index
  ;(event.target as Element).setPointerCapture?.(event.pointerId)
}
function drag(event: PointerEvent) {
  const matrix = held < 0 ? null : picture.value?.getScreenCTM()
  if (!matrix) return
  const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse())
  photo.move(held, at.x / size.value.width, at.y / size.value.height)
}
const STEP: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }
function nudge(event: KeyboardEvent, index: number) {
  const way = STEP[event.key]
  if (!way) return
  const by = event.shiftKey ? 0.02 : 0.001
  photo.move(index, photo.corners[index]![0] + way[0] * by, photo.corners[index]![1] + way[1] * by)
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <div class="board" data-testid="photo-board">
    <svg ref="picture" :viewBox="`${-grip} ${-grip} ${size.width + 2 * grip} ${size.height + 2 * grip}`" @pointermove="drag" @pointerup="held = -1" @pointercancel="held = -1">
      <image :href="api.photoUrl(size.id)" :width="size.width" :height="size.height" />
      <path :d="`M0 0H${size.width}V${size.height}H0Z${outline}`" fill="#1e2733" fill-opacity=".38" fill-rule="evenodd" pointer-events="none" />
      <path :d="outline" fill="none" stroke="#fffcf6" stroke-width="4" vector-effect="non-scaling-stroke" pointer-events="none" />
      <path :d="outline" fill="none" stroke="#a8392c" stroke-width="2" vector-effect="non-scaling-stroke" pointer-events="none" />
      <g
        v-for="(spot, k) in spots" :key="k" :transform="`translate(${spot[0]} ${spot[1]})`" class="corner" tabindex="0" role="slider" :aria-label="`${NAMES[k]} corner`"
        :aria-valuenow="Math.round(photo.corners[k]![0] * 1000)" :aria-valuetext="`${Math.round(photo.corners[k]![0] * 100)} % across, ${Math.round(photo.corners[k]![1] * 100)} % down`"
        :data-testid="`corner-${k}`" @pointerdown="down($event, k)" @keydown="nudge($event, k)"
      >
        <circle :r="grip" />
        <path :d="`M${-grip / 2} 0H${grip / 2}M0 ${-grip / 2}V${grip / 2}`" />
      </g>
    </svg>
    <p class="prompt" role="status">Drag each corner onto that corner of the {{ photo.place === 'top' ? 'quilt top' : 'block' }} · arrow keys move it finely</p>
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
