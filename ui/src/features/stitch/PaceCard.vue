<script setup lang="ts">
/** The quilter's pace with each technique, from which the needle time is computed. */
import type { Views } from '../../api/client'
import FieldControl from '../../parts/FieldControl.vue'
import LengthField from '../../parts/LengthField.vue'
import { tr } from '../../texts'

defineProps<{ fields: Views['FieldView'][]; unit: string; fault?: { name: string; message: string } }>()
defineEmits<{ set: [name: string, value: unknown] }>()
</script>

<template>
  <div>
    <p class="quiet">{{ tr('How much you sew in a minute, not counting hand moves. The estimated time follows.') }}</p>
    <div class="paces">
      <template v-for="field in fields" :key="field.name">
        <LengthField v-if="field.control === 'length'" :field="field" :unit="unit" :error="fault?.name === field.name ? fault.message : undefined" compact late @entered="$emit('set', field.name, $event)" />
        <FieldControl v-else :field="field" :unit="unit" :picked="{}" :error="fault?.name === field.name ? fault.message : undefined" @set="$emit('set', field.name, $event)" @step="$emit('set', field.name, Number(field.text) + $event)" />
      </template>
    </div>
  </div>
</template>

<style scoped>
.paces { display: grid; grid-template-columns: 1fr 1fr; gap: 10px 14px; align-items: start; margin-top: 8px; }
</style>
