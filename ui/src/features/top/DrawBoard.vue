<script setup lang="ts">
/** The block being drawn, large: points to draw from, seams, patches. Arrow keys move from point to point. */
import { computed, ref, watch } from 'vue'
import { closedPath, openPath } from '../../canvas/paths'
import { useDrawing } from '../../state/drawing'
import { useTop } from '../../state/top'
import { counted, tr } from '../../texts'

const drawing = useDrawing()
const top = useTop()
const view = computed(() => drawing.view!)
const cloth = computed(() => new Map((top.view?.fabrics ?? []).map((f) => [f.key, f.colour])))
const size = computed(() => Math.max(view.value.width, view.value.height))
/** the block with a margin around it, y down as in SVG */
const box = computed(() => {
  const m = size.value * 0.06
  return `${-m} ${-m} ${view.value.width + 2 * m} ${view.value.height + 2 * m}`
})
const upright = computed(() => `matrix(1 0 0 -1 0 ${view.value.height})`)
const lines = computed(() => {
  const { columns, rows, width, height } = view.value
  let path = ''
  for (let c = 0; c <= columns; c += 1) path += `M${(c * width) / columns} 0V${height}`
  for (let r = 0; r <= rows; r += 1) path += `M0 ${(r * height) / rows}H${width}`
  return path
})
const pieces = computed(() => view.value.patches.filter((patch) => !view.value.appliques.includes(patch.key)))
const appliques = computed(() => view.value.patches.filter((patch) => view.value.appliques.includes(patch.key)))
const cursor = ref<number>()
watch(() => view.value.spots.length, () => (cursor.value = undefined))
const pointing = computed(() => drawing.tool !== 'colour')
const isCorner = (spot: { grid: number[] }) => drawing.corners.some((c) => String(c.grid) === String(spot.grid))

const WAYS: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }
function keys(event: KeyboardEvent) {
  const way = WAYS[event.key]
  if (way && pointing.value) {
    const spots = view.value.spots
    const here = spots[cursor.value ?? 0]!
    let best: number | undefined
    let least = Infinity
    spots.forEach((spot, k) => {
      const dx = (spot.grid[0]! - here.grid[0]!) * way[0] + (spot.grid[1]! - here.grid[1]!) * way[1]
      const away = Math.abs((spot.grid[0]! - here.grid[0]!) * way[1]) + Math.abs((spot.grid[1]! - here.grid[1]!) * way[0])
      if (dx > 1e-6 && dx + 3 * away < least) [best, least] = [k, dx + 3 * away]
    })
    cursor.value = cursor.value === undefined ? 0 : (best ?? cursor.value)
  } else if (event.key === 'Enter' && pointing.value && cursor.value !== undefined) void drawing.point(view.value.spots[cursor.value]!)
  else return
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <div class="board" tabindex="0" role="application" :aria-label="tr('{name}: {seams}, {patches}. Arrow keys go from point to point, Enter takes one.', { name: view.name, seams: counted(view.seams.length, '{count} seam', '{count} seams'), patches: counted(view.patches.length, '{count} patch', '{count} patches') })" data-testid="board" @keydown="keys">
    <svg :viewBox="box" :class="`does-${drawing.tool}`">
      <g :transform="upright" stroke-linejoin="round">
        <path
          v-for="patch in pieces" :key="patch.key" :d="closedPath(patch.rings)" :fill="cloth.get(patch.fabric) ?? '#ccc'" fill-rule="evenodd"
          stroke="#6e685a" stroke-width="1" vector-effect="non-scaling-stroke" class="patch" :data-testid="`patch-${patch.key}`" @click="!pointing && drawing.patch(patch.key)"
        />
        <path :d="lines" class="grid" vector-effect="non-scaling-stroke" />
        <path v-for="(seam, k) in view.seams" :key="k" :d="openPath(seam.points)" class="seam" :class="{ open: seam.open, now: drawing.seam === k }" vector-effect="non-scaling-stroke" />
        <path
          v-for="patch in appliques" :key="patch.key" :d="closedPath(patch.rings)" :fill="cloth.get(patch.fabric) ?? '#ccc'" fill-rule="evenodd"
          stroke="#6e685a" stroke-width="1" vector-effect="non-scaling-stroke" class="patch" :data-testid="`patch-${patch.key}`" @click="!pointing && drawing.patch(patch.key)"
        />
        <path v-for="(seam, k) in view.seams" :key="k" :d="openPath(seam.points)" class="grab" vector-effect="non-scaling-stroke" :data-testid="`seam-${k}`" @click="drawing.start ? undefined : (drawing.seam = k)" />
        <template v-if="pointing">
          <circle
            v-for="(spot, k) in view.spots" :key="`${spot.grid}`" :cx="spot.at[0]" :cy="spot.at[1]" :r="size / (spot.name === 'halfway' ? 130 : 90)" class="spot"
            :class="{ half: spot.name === 'halfway', from: drawing.start === spot || isCorner(spot), cursor: cursor === k }" :data-testid="`spot-${spot.grid[0]}-${spot.grid[1]}`" @click="drawing.point(spot)"
          ><title>{{ spot.name }}</title></circle>
        </template>
      </g>
    </svg>
    <p class="prompt" role="status">
      <template v-if="drawing.tool === 'colour'">{{ drawing.fabric ? tr('Click a patch to give it the selected fabric') : tr('Choose a fabric, then click patches') }}</template>
      <template v-else-if="!drawing.start">{{ drawing.tool === 'seam' ? tr('Click where a seam begins, then where it ends') : tr('Click the corners of the appliqué one after the other; the first again closes it') }}</template>
      <template v-else>{{ drawing.tool === 'seam' ? tr('Now click where it ends · Esc cancels') : tr('Next corner · the first one closes it · Esc cancels') }}</template>
    </p>
  </div>
</template>

<style scoped>
.board { position: relative; height: 100%; background: var(--cloth); padding: 12px; }
svg { display: block; width: 100%; height: 100%; }
.grid { fill: none; stroke: #5c6470; stroke-opacity: .28; stroke-width: 1; stroke-dasharray: 2 4; pointer-events: none; }
.seam { fill: none; stroke: var(--ink); stroke-width: 2.4; pointer-events: none; }
.seam.open { stroke: var(--weld); stroke-dasharray: 6 5; }
.seam.now { stroke: var(--madder); stroke-width: 4; }
.grab { fill: none; stroke: transparent; stroke-width: 12; cursor: pointer; }
.does-colour .grab { pointer-events: none; }
.does-colour .patch { cursor: pointer; }
.spot { fill: #fffcf6; stroke: var(--indigo); stroke-width: 1.4; vector-effect: non-scaling-stroke; cursor: crosshair; }
.spot.half { fill: #fffcf6; stroke-opacity: .45; }
.spot:hover, .spot.cursor { fill: var(--indigo); stroke-opacity: 1; }
.spot.from { fill: var(--madder); stroke: var(--madder); }
.prompt { position: absolute; left: 16px; bottom: 12px; padding: 3px 14px; border: 1px solid var(--rule); border-radius: 10px; background: rgb(255 252 246 / 94%); font-size: 13px; }
</style>
