<script setup lang="ts">
/** Words with figures among them. */
import type { Words } from '../api/client'
import FigureText from './FigureText.vue'

defineProps<{ words: Words }>()
</script>

<template>
  <span><template v-for="(word, k) in words" :key="k"><template v-if="typeof word === 'string'">{{ word }}</template><FigureText v-else :shown="word" /></template></span>
</template>
