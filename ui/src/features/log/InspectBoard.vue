<script setup lang="ts">
/** The straightened photograph with every line where it was found: within, near, out, or not seen, distinguished by stroke as well as color. */
import { computed, ref } from 'vue'
import { api, type Views } from '../../api/client'
import { openPath } from '../../canvas/paths'
import { tr } from '../../texts'

const props = defineProps<{ quilt: string; view: Views['InspectionView']; chosen: string }>()
const emit = defineEmits<{ choose: [key: string] }>()
const planned = ref(false)
const margin = computed(() => props.view.margin)
const box = computed(() => `${-margin.value} ${-margin.value} ${props.view.width + 2 * margin.value} ${props.view.height + 2 * margin.value}`)
const flip = computed(() => `matrix(1 0 0 -1 0 ${props.view.height})`)
const at = computed(() => props.view.sides.find((one) => one.key === props.chosen))
const ORDER = { unseen: 0, within: 1, near: 2, out: 3 } as const
const sides = computed(() => [...props.view.sides].sort((one, other) => ORDER[one.truth] - ORDER[other.truth]))
</script>

<template>
  <div class="board" data-testid="inspect-board">
    <svg :viewBox="box" role="img" :aria-label="tr('{name}, measured: {says}', { name: view.name, says: view.says })">
      <image :href="api.flatUrl(quilt, view.id)" :x="-margin" :y="-margin" :width="view.width + 2 * margin" :height="view.height + 2 * margin" preserveAspectRatio="none" />
      <g :transform="flip" fill="none">
        <g v-for="one in sides" :key="one.key" :class="['side', one.struck ? 'unseen' : one.truth]" @click="emit('choose', one.key)">
          <path v-if="planned || one.key === chosen" :d="openPath(one.planned)" class="plan" />
          <path :d="openPath(one.points)" class="under" /><path :d="openPath(one.points)" class="ink" :data-testid="`side-${one.truth}`" />
          <path :d="openPath(one.points)" class="grab" />
        </g>
        <path v-if="at" :d="openPath(at.points)" class="chosen" />
        <circle v-for="(one, k) in view.missed" :key="`m${k}`" :cx="one.at[0]" :cy="one.at[1]" r="4" class="missed" />
      </g>
    </svg>
    <p class="key"><span><i class="within" /> {{ tr('within') }}</span><span><i class="near" /> {{ tr('near the limit') }}</span><span><i class="out" /> {{ tr('out') }}</span><span><i class="unseen" /> {{ tr('not seen') }}</span><span v-if="view.missed.length"><i class="ring" /> {{ tr('point missed') }}</span><v-btn class="plain" :aria-pressed="planned" data-testid="show-plan" @click="planned = !planned">{{ planned ? tr('Hide the plan') : tr('Show the plan') }}</v-btn></p>
  </div>
</template>

<style scoped>
.board { position: relative; height: 100%; background: var(--cloth); display: grid; grid-template-rows: minmax(0, 1fr) auto; }
svg { width: 100%; height: 100%; }
path { vector-effect: non-scaling-stroke; stroke-linecap: round; }
.side { cursor: pointer; }
.under { stroke: #fffcf6; stroke-width: 5; stroke-opacity: .75; }
.within .ink { stroke: #2f7d5b; stroke-width: 2; }
.near .ink { stroke: #b9820f; stroke-width: 3; stroke-dasharray: 9 5; }
.out .ink { stroke: #a8392c; stroke-width: 5; }
.unseen .under { stroke-opacity: 0; }
.unseen .ink { stroke: #5c6470; stroke-width: 1.4; stroke-dasharray: 1 5; }
.grab { stroke: transparent; stroke-width: 14; pointer-events: stroke; }
.plan { stroke: #2b3a67; stroke-width: 1.2; stroke-dasharray: 5 3; }
.chosen { stroke: #2b3a67; stroke-width: 6; stroke-opacity: .8; pointer-events: none; }
.missed { stroke: #a8392c; stroke-width: 2; vector-effect: non-scaling-stroke; }
.key { display: flex; flex-wrap: wrap; align-items: center; gap: 2px 16px; margin: 0; padding: 6px 14px; background: var(--paper); border-top: 1px solid var(--rule); font-size: 13px; }
i { display: inline-block; width: 26px; vertical-align: middle; margin-right: 2px; }
i.within { border-top: 2px solid #2f7d5b; }
i.near { border-top: 3px dashed #b9820f; }
i.out { border-top: 5px solid #a8392c; }
i.unseen { border-top: 2px dotted #5c6470; }
i.ring { width: 12px; height: 12px; border: 2px solid #a8392c; border-radius: 50%; }
</style>
