<script setup lang="ts">
/** A block's name and the numbers of its pattern. */
import { computed } from 'vue'
import type { Views } from '../../api/client'
import LengthField from '../../parts/LengthField.vue'
import { useQuilt } from '../../state/quilt'
import { useTop } from '../../state/top'
import { tr } from '../../texts'

type Pattern = Views['TileView']['pattern']

const props = defineProps<{ block: Views['BlockView'] }>()
const quilt = useQuilt()
const top = useTop()
const numbers = computed(() => props.block.fields.slice(2))

const now = () => top.blocks.get(props.block.key)?.doc ?? props.block.doc
function set(name: string, value: unknown) {
  void top.change(`block.${name}`, () => {
    const { pattern } = now().art as { pattern: Pattern }
    return { kind: 'numbers', key: props.block.key, pattern: { ...pattern, [name.slice('pattern.'.length)]: value } as Pattern }
  })
}
function rename(event: Event) {
  const name = (event.target as HTMLInputElement).value.trim()
  if (name && name !== props.block.name) void top.change('block.name', () => ({ kind: 'block', key: props.block.key, block: { ...now(), name } }))
}
</script>

<template>
  <label class="between"><span>{{ tr('Name') }}</span><input class="text" :value="block.name" maxlength="80" @change="rename" @keydown.enter="($event.target as HTMLInputElement).blur()" /></label>
  <template v-for="field in numbers" :key="field.name">
    <LengthField v-if="field.control === 'length'" :field="field" :error="top.errorAt(`block.${field.name}`)" :unit="quilt.unit" late @entered="set(field.name, $event || null)" />
    <div v-else-if="field.control === 'count'" class="between">
      <span>{{ field.label }}</span>
      <span class="chips">
        <v-btn class="chip" :aria-label="tr('{label}: one less', { label: field.label })" @click="set(field.name, Number(field.text) - 1)">−</v-btn>
        <b class="count">{{ field.text }}</b>
        <v-btn class="chip" :aria-label="tr('{label}: one more', { label: field.label })" @click="set(field.name, Number(field.text) + 1)">+</v-btn>
      </span>
    </div>
    <div v-else class="between">
      <span>{{ field.label }}</span>
      <span class="chips"><v-btn v-for="choice in field.choices" :key="choice.key" class="chip" :aria-pressed="choice.key === field.text" @click="set(field.name, choice.key)">{{ choice.label }}</v-btn></span>
    </div>
    <p v-if="field.control !== 'length' && top.errorAt(`block.${field.name}`)" class="wrong" role="alert">{{ top.errorAt(`block.${field.name}`) }}</p>
  </template>
</template>
