<script setup lang="ts">
/** Words with figures in them; a full stop or comma stays with the figure before it. */
import { computed } from 'vue'
import type { Words } from '../api/client'
import FigureText from './FigureText.vue'

const props = defineProps<{ words: Words }>()
const STOP = /^[.,;:!?)]+/
const stop = (k: number) => {
  const word = words.value[k]
  return typeof word === 'string' && typeof words.value[k - 1] === 'object' ? (STOP.exec(word)?.[0] ?? '') : ''
}
const FRACTION = /(?<![\d/.])(?:(\d+) )?(\d+)\/(\d+)(?![\d/])/
/** Splits a text with a written fraction, so that the fraction can be set as one. */
function lettered(text: string): Words {
  const found = FRACTION.exec(text)
  if (!found) return text ? [text] : []
  const [said, whole, num, den] = found
  const shown = { minus: false, whole: whole ?? '0', num: Number(num), den: Number(den), hair: 0, unit: '', text: said }
  return [...(found.index ? [text.slice(0, found.index)] : []), shown, ...lettered(text.slice(found.index + said.length))]
}
const words = computed(() => props.words.flatMap((word) => (typeof word === 'string' ? lettered(word) : [word])))
const parts = computed(() => words.value.map((word, k) => (typeof word === 'string' ? word.slice(stop(k).length) : { shown: word, stop: stop(k + 1) })))
</script>

<template>
  <span><template v-for="(part, k) in parts" :key="k"><template v-if="typeof part === 'string'">{{ part }}</template><span v-else :class="{ held: part.stop }"><FigureText :shown="part.shown" />{{ part.stop }}</span></template></span>
</template>

<style scoped>
.held { white-space: nowrap; }
</style>
