<script setup lang="ts">
/** Printers: which one the sheet is for, and a check with two bars to measure. */
import { ref, shallowRef, watch } from 'vue'
import { api, Problem, type Views } from '../../api/client'
import { useExports } from '../../state/exports'
import { useQuilt } from '../../state/quilt'
import { tr } from '../../texts'

const props = defineProps<{ chosen: string; paper: string }>()
const emit = defineEmits<{ choose: [name: string] }>()
const exports = useExports()
const quilt = useQuilt()
const view = shallowRef<Views['PrintersView']>()
const open = ref(false)
const name = ref(tr('My printer'))
const across = ref('')
const up = ref('')
const wrong = ref<{ field: string; message: string }>()

async function look() {
  try {
    view.value = await api.printers(quilt.unit)
    if (props.chosen && !view.value.printers.some((one) => one.name === props.chosen)) emit('choose', '')
  } catch (error) {
    if (!(error instanceof Problem)) throw error
  }
}
watch(() => quilt.unit, () => void look(), { immediate: true })

function check(printer: string) {
  name.value = printer || tr('My printer')
  across.value = up.value = ''
  wrong.value = undefined
  open.value = true
}
async function keep(sure: boolean) {
  try {
    const found = await api.checkPrinter({ name: name.value, across: across.value, up: up.value, unit: quilt.unit, sure })
    view.value = found
    wrong.value = undefined
    if (found.asks) return
    open.value = false
    emit('choose', name.value.trim())
  } catch (error) {
    if (error instanceof Problem) wrong.value = { field: error.field, message: error.message }
  }
}
async function forget(printer: string) {
  try {
    view.value = await api.deletePrinter(printer, quilt.unit)
    if (props.chosen === printer) emit('choose', '')
  } catch (error) {
    if (error instanceof Problem) quilt.trouble = error.message
  }
}
</script>

<template>
  <div class="printers">
    <div class="chips" role="group" :aria-label="tr('Printer')">
      <v-btn class="chip" :aria-pressed="!chosen" @click="emit('choose', '')">{{ tr('Any printer') }}</v-btn>
      <v-btn v-for="one in view?.printers" :key="one.name" class="chip" :aria-pressed="chosen === one.name" :data-testid="`printer-${one.name}`" @click="emit('choose', one.name)">{{ one.name }}</v-btn>
      <v-btn class="plain" data-testid="check-printer" @click="check(chosen)">{{ tr('Check {chosen} …', { chosen: chosen ? tr('it again') : tr('a printer') }) }}</v-btn>
    </div>
    <p v-if="chosen" class="quiet" data-testid="corrected">{{ view?.printers.find((one) => one.name === chosen)?.words }} <v-btn class="plain" @click="forget(chosen)">{{ tr('Delete this printer') }}</v-btn></p>
    <div v-if="open" class="card leaf check">
      <label class="label">{{ tr('Its name') }}<input v-model="name" class="text" maxlength="60" data-testid="printer-name" :aria-invalid="wrong?.field === 'name'" /></label>
      <a class="chip" :href="exports.href('printer-check', {}, { name: name.trim() || 'My printer', paper, unit: quilt.unit })" data-testid="check-page">{{ exports.label('printer-check') }}</a>
      <p>{{ tr('2 · Measure both bars from end to end. Printed true, each is {bar} long.', { bar: view?.bar }) }}</p>
      <div class="two">
        <label class="label">{{ tr('Across') }}<input v-model="across" class="text" data-testid="bar-across" :aria-invalid="wrong?.field === 'across'" /></label>
        <label class="label">{{ tr('Up') }}<input v-model="up" class="text" data-testid="bar-up" :aria-invalid="wrong?.field === 'up'" /></label>
      </div>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong.message }}</p>
      <p v-if="view?.asks" class="card weld" role="status" data-testid="printer-asks">{{ view.asks }} <v-btn class="plain" data-testid="printer-sure" @click="keep(true)">{{ tr('The printer was off: correct it') }}</v-btn></p>
      <div class="chips"><v-btn class="chip offer" data-testid="printer-keep" @click="keep(false)">{{ tr('Correct my sheets') }}</v-btn><v-btn class="plain" @click="open = false">{{ tr('Cancel') }}</v-btn></div>
    </div>
  </div>
</template>

<style scoped>
.printers, .check { display: grid; gap: 8px; }
.check a { text-decoration: none; color: var(--indigo); justify-self: start; }
.check label { display: grid; gap: 3px; }
.two { display: grid; grid-template-columns: 1fr 1fr; gap: 10px; }
.two input { width: 100%; }
</style>
