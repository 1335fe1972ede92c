<script setup lang="ts">
/** The stage of every place, drawn over the quilt, from untouched to inspected, distinguished by hatching and stroke as well as darkness. */
import { computed } from 'vue'
import type { Views } from '../../api/client'
import { closedPath } from '../../canvas/paths'
import { toScreen, type View } from '../../canvas/view'

const props = defineProps<{ places: Views['PlaceRow'][]; view: View; chosen: string; spots: number[][] }>()
const world = computed(() => `matrix(${props.view.scale} 0 0 ${-props.view.scale} ${props.view.x} ${props.view.y})`)
const LEAST = 44 // px: a smaller place has no room for words
const sign = (one: Views['PlaceRow']) => (one.stage === 'inspected' ? '✓' : one.share > 0 && one.share < 1 ? `${Math.min(Math.max(Math.round(100 * one.share), 1), 99)} %` : '')
const width = (one: Views['PlaceRow']) => {
  const xs = one.outline[0]!.filter((_, k) => k % 2 === 0)
  return (Math.max(...xs) - Math.min(...xs)) * props.view.scale
}
/** the chosen one last, so that its outline is on top */
const inOrder = computed(() => [...props.places.filter((one) => one.place !== props.chosen), ...props.places.filter((one) => one.place === props.chosen)])
const labels = computed(() => props.places.filter((one) => sign(one) && one.outline.length === 1 && width(one) > LEAST).map((one) => ({ place: one.place, text: sign(one), at: toScreen(props.view, one.at[0]!, one.at[1]!) })))
const marked = computed(() => props.spots.map((at) => toScreen(props.view, at[0]!, at[1]!)))
</script>

<template>
  <g class="still">
    <defs>
      <pattern id="log-begun" width="9" height="9" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><rect width="9" height="9" fill="#3f6b56" fill-opacity=".1" /><path d="M0 0V9" stroke="#3f6b56" stroke-width="2.4" stroke-opacity=".7" /></pattern>
      <pattern id="log-filled" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><rect width="6" height="6" fill="#3f6b56" fill-opacity=".25" /><path d="M0 0V6" stroke="#3f6b56" stroke-width="2.4" stroke-opacity=".8" /></pattern>
    </defs>
    <g :transform="world">
      <path v-for="one in inOrder" :key="one.place" :d="closedPath(one.outline)" :class="[one.stage, { chosen: one.place === chosen }]" fill-rule="evenodd" vector-effect="non-scaling-stroke" :data-testid="`status-${one.place}`" :data-stage="one.stage" />
    </g>
    <g v-for="one in labels" :key="one.place" :transform="`translate(${one.at[0]} ${one.at[1]})`"><rect :x="-5 - 4.2 * one.text.length" y="-13" :width="10 + 8.4 * one.text.length" height="26" rx="13" /><text y="5">{{ one.text }}</text></g>
    <path v-for="([x, y], k) in marked" :key="`s${k}`" :d="`M${x - 6} ${y - 6}l12 12m0 -12l-12 12`" class="spot" data-testid="log-spot" />
  </g>
</template>

<style scoped>
.still { pointer-events: none; }
path { fill: none; stroke: none; }
.planned, .marked { fill: #fffcf6; fill-opacity: .42; }
.marked { stroke: #b9820f; stroke-width: 2; stroke-dasharray: 2 5; }
.begun { fill: url(#log-begun); }
.anchored { fill: url(#log-begun); stroke: #3f6b56; stroke-width: 4; }
.filled { fill: url(#log-filled); }
.finished, .inspected { fill: #3f6b56; fill-opacity: .42; }
.inspected { stroke: #3f6b56; stroke-width: 2; }
.chosen { stroke: #2b3a67; stroke-width: 4; }
rect { fill: #fffcf6; stroke: #3f6b56; }
text { text-anchor: middle; font-size: 14px; font-weight: 700; fill: #27503d; }
.spot { stroke: #a8392c; stroke-width: 2.6; }
</style>
