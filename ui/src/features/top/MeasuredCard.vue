<script setup lang="ts">
/** Measurements of a finished block: for all of its kind, or for the one at the chosen place. */
import { computed, ref, watch } from 'vue'
import type { Views } from '../../api/client'
import WordsText from '../../parts/WordsText.vue'
import { useTop } from '../../state/top'
import { tr } from '../../texts'

const props = defineProps<{ block: Views['BlockView'] }>()
const top = useTop()
const open = ref(false)
const one = ref(false)
const typed = ref({ width: '', height: '', first: '', second: '' })
const here = computed(() => (top.cell?.block === props.block.key ? top.place : ''))
const held = computed(() => {
  const measured = one.value && here.value ? top.cell?.measured : (props.block.doc.measured as Record<string, unknown> | null)
  return measured as { width: string; height: string; diagonals: string[] | null } | null | undefined
})
const warning = computed(() => (one.value && here.value ? top.cell?.warning : props.block.warning) ?? [])
watch([held, open], () => {
  typed.value = { width: held.value?.width ?? '', height: held.value?.height ?? '', first: held.value?.diagonals?.[0] ?? '', second: held.value?.diagonals?.[1] ?? '' }
}, { immediate: true })

function keep() {
  const { width, height, first, second } = typed.value
  const doc = props.block.doc as { width: string; height: string }
  const measured = { width: width || doc.width, height: height || doc.height, diagonals: first && second ? [first, second] : null }
  void top.change('measured', { kind: 'measured', key: props.block.key, place: one.value && here.value ? here.value : null, measured })
}
const forget = () => top.change('measured', { kind: 'measured', key: props.block.key, place: one.value && here.value ? here.value : null, measured: null })
</script>

<template>
  <div class="measured">
    <div class="between">
      <span><WordsText v-if="block.measured.length" :words="block.measured" /><template v-else>{{ tr('Measured size') }}</template></span>
      <v-btn class="plain" data-testid="measure" @click="open = !open">{{ open ? tr('Close') : tr('I measured it …') }}</v-btn>
    </div>
    <template v-if="open">
      <div v-if="here" class="chips">
        <v-btn class="chip" :aria-pressed="!one" @click="one = false">{{ tr('All {laid}', { laid: block.laid }) }}</v-btn>
        <v-btn class="chip" :aria-pressed="one" @click="one = true">{{ tr('Only this one') }}</v-btn>
      </div>
      <div class="grid">
        <label>{{ tr('Width') }}<input v-model="typed.width" class="text" data-testid="measured-width" :placeholder="String(block.doc.width)" /></label>
        <label>{{ tr('Height') }}<input v-model="typed.height" class="text" data-testid="measured-height" :placeholder="String(block.doc.height)" /></label>
        <label>{{ tr('Diagonal, rising to the right') }}<input v-model="typed.first" class="text" data-testid="measured-first" :placeholder="tr('if you measured it')" /></label>
        <label>{{ tr('Diagonal, rising to the left') }}<input v-model="typed.second" class="text" data-testid="measured-second" :placeholder="tr('the other diagonal')" /></label>
      </div>
      <p v-if="top.errorAt('measured')" class="wrong" role="alert">{{ top.errorAt('measured') }}</p>
      <div class="chips">
        <v-btn class="chip" data-testid="measured-keep" @click="keep()">{{ tr('Patches are scaled to these measurements') }}</v-btn>
        <v-btn v-if="held" class="plain" @click="forget()">{{ tr('Use the planned size') }}</v-btn>
      </div>
    </template>
    <p v-if="warning.length" class="card tip" role="status"><WordsText :words="warning" /></p>
  </div>
</template>

<style scoped>
.measured { display: grid; gap: 8px; border-top: 1px dashed var(--rule); padding-top: 6px; }
.grid { display: grid; grid-template-columns: 1fr 1fr; gap: 8px; }
label { display: grid; gap: 2px; font-size: 13px; }
</style>
