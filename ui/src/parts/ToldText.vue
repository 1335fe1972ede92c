<script setup lang="ts">
/** A text with values that are more than letters: each has a slot of its name. */
import { computed } from 'vue'
import { pieces } from '../texts'

const props = defineProps<{ text: string }>()
const parts = computed(() => pieces(props.text))
</script>

<template>
  <span><template v-for="(part, k) in parts" :key="k"><slot v-if="k % 2" :name="part" /><template v-else>{{ part }}</template></template></span>
</template>
