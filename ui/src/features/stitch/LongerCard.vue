<script setup lang="ts">
/** A longer search for a shorter route: its results so far, to be used or not. */
import { onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { api, Problem, type Views } from '../../api/client'
import WordsText from '../../parts/WordsText.vue'
import { useQuilt } from '../../state/quilt'
import { tr } from '../../texts'

const props = defineProps<{ number: number; kept?: string }>()
const emit = defineEmits<{ ways: [ways: Record<string, number[]>]; forget: [word: string] }>()
const quilt = useQuilt()
const found = shallowRef<Views['SearchView']>()
const trouble = ref('')
let waits: ReturnType<typeof setTimeout> | undefined
/** which search is current: answers about an earlier one are ignored */
let mine = 0
/** the route for which it was started, while it is under way */
let begun: { quilt: string; number: number } | undefined

async function told(answer: Promise<Views['SearchView']>) {
  const which = mine
  const number = begun?.number ?? props.number
  try {
    const view = await answer
    if (which !== mine) return
    found.value = view
    trouble.value = ''
    if (view.state === 'looking') waits = setTimeout(() => void told(api.searchSoFar(quilt.id, quilt.unit, number)), 700)
    return view
  } catch (error) {
    if (!(error instanceof Problem)) throw error
    if (which === mine) leave(error.message)
  }
}
function begin() {
  begun = { quilt: quilt.id, number: props.number }
  void told(api.search(quilt.id, { unit: quilt.unit, number: props.number }))
}
async function take() {
  clearTimeout(waits)
  const view = await told(api.stopSearch(quilt.id, { unit: quilt.unit, number: props.number }))
  begun = undefined
  if (view && Object.keys(view.ways).length) emit('ways', view.ways)
  leave()
}
/** One more line is marked: the route is searched again. */
async function draw(offer: Views['MarkOffer']) {
  leave()
  await quilt.set({ kind: 'drawn too', zone: offer.zone, spots: offer.spots })
}
function leave(why = '') {
  mine++
  clearTimeout(waits)
  if (begun) void api.stopSearch(begun.quilt, { unit: quilt.unit, number: begun.number }).catch(() => undefined)
  begun = undefined
  found.value = undefined
  trouble.value = why
}
watch(() => [quilt.id, props.number, quilt.taken], () => leave())
onBeforeUnmount(() => leave())
</script>

<template>
  <div class="stack">
    <template v-if="found && found.state !== 'idle'">
      <div class="card tip stack" data-testid="longer" aria-live="polite">
        <p v-if="found.doing" class="quiet">{{ tr('Looking at {doing}', { doing: found.doing }) }}</p>
        <p v-for="(words, k) in found.words" :key="k"><WordsText :words="words" /></p>
        <div v-for="offer in found.marks" :key="offer.zone" class="between">
          <span><WordsText :words="offer.words" /></span>
          <v-btn class="chip offer" data-testid="draw-too" @click="draw(offer)">{{ tr('Mark that line') }}</v-btn>
        </div>
        <div class="bar" role="progressbar" :aria-valuenow="Math.round(100 * found.share)" aria-valuemin="0" aria-valuemax="100" :aria-label="tr('How close this route is to the shortest possible')"><i :style="{ width: `${100 * found.share}%` }" /></div>
        <div class="chips">
          <v-btn v-if="Object.keys(found.ways).length" class="chip offer" data-testid="longer-take" @click="take">{{ tr('Use this route') }}</v-btn>
          <v-btn class="chip" data-testid="longer-stop" @click="leave()">{{ found.state === 'looking' ? tr('Stop searching') : tr('Cancel') }}</v-btn>
        </div>
      </div>
    </template>
    <div v-else class="chips">
      <v-btn class="chip" data-testid="longer-begin" @click="begin">{{ number ? tr('Search for a shorter route') : tr('Search for shorter routes') }}</v-btn>
      <v-btn v-if="kept" class="chip" data-testid="longer-forget" @click="$emit('forget', kept)">{{ tr('Go back to the first route') }}</v-btn>
    </div>
    <p v-if="trouble" class="wrong" role="alert">{{ trouble }}</p>
  </div>
</template>

<style scoped>
.bar { height: 6px; border-radius: 3px; background: var(--rule); overflow: hidden; }
.bar i { display: block; height: 100%; background: var(--leaf-fill); transition: width 0.4s; }
</style>
