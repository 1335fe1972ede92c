<script setup lang="ts">
/** One of the quilt's fabrics, chosen by its color. */
import type { Views } from '../../api/client'

defineProps<{ fabrics: Views['FabricView'][]; modelValue: string | null; label: string; none?: string }>()
defineEmits<{ 'update:modelValue': [key: string | null] }>()
</script>

<template>
  <div class="pick" role="group" :aria-label="label">
    <span class="label">{{ label }}</span>
    <span class="hues">
      <button v-if="none" class="none" :aria-pressed="modelValue === null" @click="$emit('update:modelValue', null)">{{ none }}</button>
      <button
        v-for="fabric in fabrics" :key="fabric.key" class="hue" :style="{ background: fabric.colour }" :title="fabric.name" :aria-label="fabric.name"
        :aria-pressed="modelValue === fabric.key" @click="$emit('update:modelValue', fabric.key)"
      />
    </span>
  </div>
</template>

<style scoped>
.pick { display: flex; justify-content: space-between; align-items: center; gap: 10px; min-height: 34px; }
.label { font-weight: 400; min-width: 0; }
.hues { display: flex; flex-wrap: wrap; gap: 5px; justify-content: flex-end; align-items: center; }
.hue { width: 26px; height: 26px; border-radius: 6px; border: 1px solid #8a8577; cursor: pointer; padding: 0; }
.hue[aria-pressed='true'] { outline: 3px solid var(--indigo); outline-offset: 1px; }
.none { border: 1px solid var(--rule); border-radius: 13px; background: var(--field); font-size: 13px; padding: 2px 10px; cursor: pointer; }
.none[aria-pressed='true'] { border-color: var(--indigo); background: var(--indigo-wash); color: var(--indigo); font-weight: 700; }
</style>
