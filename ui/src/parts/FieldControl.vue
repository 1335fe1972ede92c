<script setup lang="ts">
/** One parameter with its declared control; independent of fills and items. */
import { computed, ref, watch } from 'vue'
import type { Views } from '../api/client'
import LengthField from './LengthField.vue'
import { tr } from '../texts'

const props = defineProps<{ field: Views['FieldView']; error?: string; unit: string; picked: Record<string, string> }>()
const emit = defineEmits<{ set: [value: unknown]; step: [by: number]; pick: [kind: 'edge' | 'corner' | 'point', choice: string] }>()

const main = computed(() => props.field.name === 'spacing')
const preset = computed(() => props.field.presets.includes(Number(props.field.text)))
function choose(choice: Views['ChoiceView']) {
  if (choice.picks) emit('pick', choice.picks as 'edge' | 'corner' | 'point', choice.key)
  else emit('set', choice.key)
}
// typed text stays as it is: -45 is not rewritten to 135 while typing
const own = ref(props.field.text)
const typing = ref(false)
watch(() => props.field.text, (now) => { if (!typing.value) own.value = now })
watch(() => props.error, (now) => { if (!now && !typing.value) own.value = props.field.text })
function type(text: string) {
  own.value = text
  const said = text.trim()
  if (props.field.control === 'angle') emit('set', said)
  else emit('set', said === '' ? null : Number.isNaN(Number(said)) ? said : Number(said))
}
function say(text: string) {
  own.value = text
  emit('set', text.trim() || null)
}
function done() {
  typing.value = false
  if (!props.error) own.value = props.field.text
}
</script>

<template>
  <LengthField
    v-if="field.control === 'length'" :field="field" :error="error" :unit="unit" :big="main" :steps="main" compact
    @typed="emit('set', $event)" @step="emit('step', $event)"
  >
    <template v-if="main" #hint><span class="keys-only">{{ tr('[ and ] change it') }}</span></template>
  </LengthField>
  <fieldset v-else :class="{ half: field.control === 'count' || field.control === 'text' }" :title="field.help">
    <legend class="head"><span class="label">{{ field.label }}</span><slot /></legend>
    <div class="chips">
      <template v-if="field.control === 'choice'">
        <v-btn v-for="choice in field.choices" :key="choice.key" class="chip" :aria-pressed="field.text === choice.key" @click="choose(choice)">
          {{ choice.label }}<template v-if="field.text === choice.key && picked[choice.picks]">: {{ picked[choice.picks] }}</template>
        </v-btn>
      </template>
      <template v-else-if="field.control === 'angle'">
        <v-btn v-for="angle in field.presets" :key="angle" class="chip" :aria-pressed="Number(field.text) === angle" @click="emit('set', angle)">{{ angle }}°</v-btn>
        <input class="own" :class="{ on: !preset }" :value="own" :aria-label="tr('{label}, degrees', { label: field.label })" :aria-invalid="!!error" :data-testid="`field-${field.name}`" @focus="typing = true" @blur="done" @input="type(($event.target as HTMLInputElement).value)" />
      </template>
      <input
        v-else-if="field.control === 'text'" class="text" :value="own" :placeholder="field.empty" :aria-label="field.label" :aria-invalid="!!error"
        :title="field.help" :data-testid="`field-${field.name}`" @focus="typing = true" @blur="done" @input="say(($event.target as HTMLInputElement).value)"
      />
      <template v-else>
        <v-btn class="chip" :aria-label="tr('One less')" :disabled="!field.text" @click="emit('step', -1)">−</v-btn>
        <input class="own" :class="{ on: field.text }" :value="own" :placeholder="field.empty" :aria-label="field.label" :aria-invalid="!!error" :data-testid="`field-${field.name}`" inputmode="numeric" @focus="typing = true" @blur="done" @input="type(($event.target as HTMLInputElement).value)" />
        <v-btn class="chip" :aria-label="tr('One more')" @click="emit('step', 1)">+</v-btn>
        <v-btn v-if="field.empty && field.text" class="chip" :aria-label="`${field.label}: ${field.empty}`" :title="field.empty" @click="emit('set', null)">×</v-btn>
      </template>
    </div>
    <p v-if="error" class="error" role="alert">{{ error }}</p>
  </fieldset>
</template>

<style scoped>
fieldset { border: 0; padding: 0; margin: 0; min-width: 0; }
legend { padding: 0; margin-bottom: 5px; width: 100%; }
.head { display: flex; justify-content: space-between; align-items: baseline; gap: 8px; }
.chips { gap: 6px; }
.chip { padding: 2px 11px; }
.chips .text { width: 100%; }
.half .chips { flex-wrap: nowrap; gap: 4px; }
.half .own { flex: 1; min-width: 0; width: 40px; font-size: 13px; }
.half .chip { padding: 2px 9px; }
.own { width: 54px; height: 34px; border: 1px solid var(--rule); border-radius: 8px; text-align: center; background: var(--field); font-size: 14px; }
.own.on { border-color: var(--indigo); background: var(--indigo-wash); font-weight: 700; }
.error { color: var(--madder); font-size: 14px; margin-top: 5px; }
</style>
