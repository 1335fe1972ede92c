<script setup lang="ts">
/** The foot beside the ruler, to scale: where a line is stitched when a mark is on the last one. */
import { computed } from 'vue'
import type { Views } from '../../api/client'
import WordsText from '../../parts/WordsText.vue'
import { tr } from '../../texts'

const props = defineProps<{ foot: number; makes: Views['EtchedView'][] }>()

const TOP = 104
const LEAST = 21
const LABEL = 37
/** a ruler with many marks is taller, and scrolls */
const high = computed(() => Math.max(520, LEAST * props.makes.length))
const lowest = computed(() => TOP + high.value + 16)
const scale = computed(() =>
  Math.min(high.value / (props.foot + Math.max(...props.makes.map((row) => row.at), 6.35)), (TOP - 8) / props.foot),
)
const edge = computed(() => TOP + props.foot * scale.value)
const lines = computed(() => props.makes.map((row) => ({ ...row, y: edge.value + row.at * scale.value })))
/** Every mark has a label; labels that would overlap are moved apart, with leaders to their marks. */
const step = computed(() => Math.min(LABEL, (lowest.value - edge.value + LABEL / 2) / Math.max(lines.value.length, 1)))
const named = computed(() => {
  const at: number[] = []
  for (const line of lines.value) at.push(Math.max(line.y, (at.at(-1) ?? -Infinity) + step.value))
  let free = lowest.value
  for (let k = at.length - 1; k >= 0; k--) {
    at[k] = Math.min(at[k]!, free)
    free = at[k]! - step.value
  }
  return lines.value.map((line, k) => ({ ...line, label_y: at[k]! }))
})
</script>

<template>
  <figure>
    <svg :viewBox="`0 0 824 ${high + 160}`" :style="{ minHeight: high > 520 ? `${high + 160}px` : undefined }" role="img" :aria-label="tr('Your foot beside your ruler, with what each mark makes')">
      <rect x="60" :y="edge" width="704" :height="high + TOP - edge + 26" rx="6" class="body" />
      <path v-for="line in lines" :key="line.at" :d="`M60 ${line.y}H764`" class="etched" :class="{ edge: !line.at }" />
      <path :d="`M40 ${TOP}H784`" class="new" />
      <text x="784" :y="TOP - 14" class="say">{{ tr('the line you are sewing') }}</text>
      <circle cx="412" :cy="TOP" :r="foot * scale" class="foot" /><circle cx="412" :cy="TOP" r="4" class="needle" />
      <path :d="`M470 ${TOP + 6}V${edge - 6}`" class="gap" />
      <foreignObject x="478" :y="(TOP + edge) / 2 - 15" width="110" height="30"><div class="r">{{ tr('your foot') }}</div></foreignObject>
      <text x="139" y="34" class="head">{{ tr('put this mark on your last line') }}</text>
      <text x="638" y="34" class="head">{{ tr('and you sew this far from the last line') }}</text>
      <path d="M139 42v16m-6-6l6 7 6-7M638 42v16m-6-6l6 7 6-7" class="to" />
      <template v-for="line in named" :key="line.at">
        <path :d="`M204 ${line.label_y}L232 ${line.y}M560 ${line.label_y}L532 ${line.y}`" class="leader" />
        <foreignObject x="74" :y="line.label_y - step / 2" width="130" :height="step"><div class="tag" :class="{ small: step < LABEL }"><b><WordsText :words="line.label" /></b></div></foreignObject>
        <foreignObject x="560" :y="line.label_y - step / 2" width="156" :height="step"><div class="tag made" :class="{ small: step < LABEL }"><b><WordsText :words="line.words" /></b></div></foreignObject>
      </template>
    </svg>
    <figcaption>{{ tr('Put a mark on the line before: the new line is that distance plus your foot’s offset away.') }}</figcaption>
  </figure>
</template>

<style scoped>
figure { margin: 0; height: 100%; display: grid; grid-template-rows: minmax(0, 1fr) auto; justify-items: center; padding: 10px 24px 16px; background: var(--cloth); overflow: auto; }
svg { height: 100%; max-width: 100%; }
.new { stroke: #a8392c; stroke-width: 4; stroke-dasharray: 16 6; }
.body { fill: #2f9c95; fill-opacity: .22; stroke: #1f6f69; stroke-width: 1.5; }
.etched { stroke: #1f6f69; stroke-width: 1.3; }
.etched.edge { stroke-width: 4; }
.foot { fill: #fff6f3; fill-opacity: .7; stroke: #a8392c; stroke-width: 3; }
.needle { fill: #a8392c; }
.gap { stroke: var(--ink); stroke-width: 1.5; stroke-dasharray: 3 3; }
.say { text-anchor: end; font-size: 16px; fill: var(--madder); font-weight: 700; }
.r { font-size: 16px; }
.head { font-size: 16px; text-anchor: middle; fill: var(--ink); }
.to { stroke: var(--ink); stroke-width: 1.5; fill: none; }
.tag { font-size: 16px; height: 34px; display: flex; align-items: center; justify-content: center; gap: 7px; background: var(--paper); border: 1px solid #b7d6d2; border-radius: 8px; }
.tag.small { height: calc(100% - 2px); font-size: 13px; line-height: 1; border-radius: 5px; }
.leader { stroke: var(--etched); stroke-width: 1; fill: none; }
.made { border-color: #dfb4ad; }
figcaption { font-size: 14px; color: var(--soft); }
</style>
