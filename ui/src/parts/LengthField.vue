<script setup lang="ts">
/** A length field: shown as on a ruler, edited as text, stepped by the marking step. It parses nothing. */
import { computed, nextTick, ref, watch } from 'vue'
import type { Views } from '../api/client'
import FigureText from './FigureText.vue'
import { tr } from '../texts'

const props = defineProps<{ field: Views['FieldView']; error?: string; unit: string; big?: boolean; steps?: boolean; late?: boolean; compact?: boolean }>()
/** `typed` at every key; with `late`, `entered` once when editing ends and the text has changed. */
const emit = defineEmits<{ typed: [text: string]; entered: [text: string]; step: [by: number] }>()

const input = ref<HTMLInputElement>()
const editing = ref(false)
const text = ref(props.field.text)
const id = computed(() => `field-${props.field.name.replace('.', '-')}`)
const shows = computed(() => !editing.value && !props.error && (props.field.shown || !text.value))

watch(() => props.field.text, (now) => { if (!editing.value) text.value = now })
watch(() => props.error, (now) => { if (!now && !editing.value) text.value = props.field.text })

async function edit() {
  editing.value = true
  await nextTick()
  input.value?.select()
}
let said: string | undefined
function done() {
  editing.value = false
  const now = text.value.trim()
  if (props.late && now !== props.field.text && now !== said) emit('entered', (said = now))
  else if (!props.error) text.value = props.field.text
}
watch(() => props.field, () => (said = undefined))
</script>

<template>
  <div class="length" :class="{ big, wrong: error }" :title="compact ? field.help : undefined">
    <div class="head"><label class="label" :for="id">{{ field.label }}</label><span class="quiet"><slot name="hint" /></span></div>
    <div class="box">
      <button v-if="steps" class="step" :aria-label="tr('{label}: one step less', { label: field.label })" @click="emit('step', -1)">−</button>
      <span class="well">
        <input
          :id="id" ref="input" v-model="text" autocomplete="off" spellcheck="false" inputmode="text" :data-testid="id"
          :class="{ under: shows }" :aria-invalid="!!error" :aria-describedby="error ? `${id}-error` : undefined"
          @focus="edit" @blur="done" @input="emit('typed', text)" @keydown.enter="input?.blur()"
        />
        <span v-if="shows" class="over" :class="{ none: !field.shown }">
          <FigureText v-if="field.shown" :shown="field.shown" /><template v-else>{{ field.empty }}</template>
        </span>
      </span>
      <button v-if="steps" class="step" :aria-label="tr('{label}: one step more', { label: field.label })" @click="emit('step', 1)">+</button>
    </div>
    <p v-if="error" :id="`${id}-error`" class="error" role="alert">{{ error }}</p>
    <p v-else-if="field.help && !big && !compact" class="help">{{ field.help }}</p>
  </div>
</template>

<style scoped>
.head { display: flex; justify-content: space-between; align-items: baseline; gap: 8px; margin-bottom: 5px; }
.box { display: flex; gap: 10px; align-items: center; }
.well { position: relative; flex: 1; display: block; }
input { width: 100%; height: 38px; padding: 0 10px; border: 1px solid var(--rule); border-radius: 8px; background: var(--field); font-weight: 700; text-align: center; }
.big input { height: 50px; border: 2px solid var(--indigo); font-size: 20px; }
.wrong input { border-color: var(--madder); }
input.under { color: transparent; }
.over { position: absolute; inset: 0; display: grid; place-items: center; pointer-events: none; font-weight: 700; }
.over.none { font-weight: 400; color: var(--soft); }
.big .over { font-size: 20px; }
.step { width: 44px; height: 44px; flex: none; border: 1px solid var(--rule); border-radius: 8px; background: var(--field); font-size: 20px; color: var(--indigo); cursor: pointer; }
.step:hover { border-color: var(--indigo); }
.error { color: var(--madder); font-size: 14px; margin-top: 5px; }
.help { color: var(--soft); font-size: 13px; margin-top: 3px; }
</style>
