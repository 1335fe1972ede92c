<script setup lang="ts">
/** Nothing chosen yet: what to do first, and every zone as a button. */
import type { Views } from '../api/client'
import { tr } from '../texts'

defineProps<{ zones: Views['ZoneInfo'][]; lead: string; chosen?: string }>()
defineEmits<{ choose: [key: string] }>()
</script>

<template>
  <div class="list">
    <p>{{ lead }}</p>
    <button v-for="zone in zones" :key="zone.key" class="zone" :class="{ chosen: zone.key === chosen }" @click="$emit('choose', zone.key)">
      <b>{{ zone.name }}</b><span class="quiet">{{ zone.fill || (zone.left_open ? tr('unquilted') : tr('no fill yet')) }}</span>
    </button>
  </div>
</template>

<style scoped>
.list { display: grid; gap: 8px; }
.list p { margin-bottom: 6px; }
.zone { display: flex; justify-content: space-between; align-items: center; min-height: 44px; padding: 0 14px; border: 1px solid var(--rule); border-radius: 8px; background: var(--field); cursor: pointer; text-align: left; }
.zone:hover, .zone.chosen { border-color: var(--indigo); }
</style>
