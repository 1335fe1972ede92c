<script setup lang="ts">
/** Settings of one theme: closed, with its present values in one line; when opened, it scrolls into view. */
import { nextTick, ref, useId } from 'vue'
import type { Words } from '../api/client'
import { useFold } from './folds'
import WordsText from './WordsText.vue'

const props = defineProps<{ name: string; title?: string; says?: Words; open?: boolean }>()
const id = useId()
const root = ref<HTMLElement>()
const isOpen = useFold(() => props.name, () => props.open)
async function turn() {
  isOpen.value = !isOpen.value
  if (!isOpen.value) return
  await nextTick()
  root.value?.scrollIntoView?.({ block: 'nearest' })
}
</script>

<template>
  <section ref="root" class="fold" :class="{ open: isOpen }">
    <button class="head" :aria-expanded="isOpen" :aria-controls="id" :data-testid="`fold-${name}`" @click="turn()">
      <b>{{ title ?? name }}</b><span v-if="says && !isOpen" class="says"><WordsText :words="says" /></span><i aria-hidden="true">{{ isOpen ? '▴' : '▾' }}</i>
    </button>
    <div v-show="isOpen" :id="id" class="inside"><slot /></div>
  </section>
</template>

<style scoped>
.fold { border-top: 1px solid var(--rule); }
.settings > .fold + .fold { margin-top: -12px; }
.head { width: 100%; min-height: 40px; display: flex; align-items: center; gap: 12px; border: 0; background: none; padding: 4px 0; text-align: left; cursor: pointer; font-size: 14px; }
.head b { color: var(--indigo); flex: none; }
.says { flex: 1; min-width: 0; text-align: right; color: var(--soft); overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.head i { margin-left: auto; font-style: normal; color: var(--soft); }
.says + i { margin-left: 0; }
.inside { display: grid; grid-template-columns: minmax(0, 1fr); gap: 12px; padding: 2px 0 14px; }
</style>
