<script setup lang="ts">
/** Words with figures among them; a stop or comma stays with the figure before it. */
import { computed } from 'vue'
import type { Words } from '../api/client'
import FigureText from './FigureText.vue'

const props = defineProps<{ words: Words }>()
const STOP = /^[.,;:!?)]+/
const stop = (k: number) => {
  const word = props.words[k]
  return typeof word === 'string' && typeof props.words[k - 1] === 'object' ? (STOP.exec(word)?.[0] ?? '') : ''
}
const parts = computed(() => props.words.map((word, k) => (typeof word === 'string' ? word.slice(stop(k).length) : { shown: word, stop: stop(k + 1) })))
</script>

<template>
  <span><template v-for="(part, k) in parts" :key="k"><template v-if="typeof part === 'string'">{{ part }}</template><span v-else :class="{ held: part.stop }"><FigureText :shown="part.shown" />{{ part.stop }}</span></template></span>
</template>

<style scoped>
.held { white-space: nowrap; }
</style>
