<script setup lang="ts">
/** Progress at a glance: how far, how much thread, how long, when to rest. */
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import type { Views } from '../../api/client'
import { useQuilt } from '../../state/quilt'
import { canSpeak } from '../../sewing/aloud'
import { bobbinAfter, clock, nextStop, runsOut, type Step } from '../../sewing/machine'
import { counted, tr } from '../../texts'

const props = defineProps<{ view: Views['SewingView']; steps: readonly Step[]; done: readonly Step[]; mmDone: number; paused: boolean; machine?: Views['MachineHeard'] }>()
defineEmits<{ leave: [] }>()
const aloud = defineModel<boolean>('aloud', { default: false })

const quilt = useQuilt()
const PAUSE_S = 300
/** seconds since the last figures, while sewing; a long silence counts as a pause */
const gone = ref(0)
let last = Date.now()
let timer: ReturnType<typeof setInterval> | undefined
onMounted(() => {
  timer = setInterval(() => {
    const now = Date.now()
    const since = (now - last) / 1000
    last = now
    if (!props.paused && document.visibilityState === 'visible' && since < PAUSE_S) gone.value += since
  }, 1000)
})
onBeforeUnmount(() => clearInterval(timer))
watch(() => props.view, () => (gone.value = 0))

const share = (part: number) => `${Math.floor(100 * part)} %`
const here = computed(() => {
  const { whole_mm: whole = 0, left_mm: left = 0 } = props.view.here ?? {}
  return whole ? share((whole - left + props.mmDone) / whole) : '–'
})
const bobbin = computed(() => {
  const mm = Math.max(bobbinAfter(props.view.bobbin, props.done), 0)
  return quilt.unit === 'in' ? tr('{mm} yd', { mm: Math.floor(mm / 914.4) }) : `${Math.floor(mm / 1000)} m`
})
const out = computed(() => {
  const left = { ...props.view.bobbin, left: bobbinAfter(props.view.bobbin, props.done) }
  return left.left <= 0 ? { after: 0, stop: undefined } : runsOut(left, props.steps)
})
const bobbinWords = computed(() => {
  if (!out.value) return ''
  const lines = props.steps.slice(0, out.value.after).filter((one) => one.kind === 'line').length
  const soon = counted(Math.max(lines, 1), 'it may run out on this line', 'it may run out in {count} lines')
  return out.value.stop === undefined ? soon : tr('{soon}: change it at the thread stop before', { soon })
})
const rest = computed(() => {
  const seconds = props.view.rest - props.view.unrested - gone.value
  return seconds > 0 ? clock(seconds + 59) : 'now'
})
const stop = computed(() => {
  const line = nextStop(props.steps)?.number ?? props.view.here?.stop ?? 0
  return !line ? tr('not here') : line === props.steps[0]?.number ? tr('after this line') : tr('after line {line}', { line })
})
</script>

<template>
  <footer :aria-label="tr('How far')">
    <dl>
      <div><dt>{{ tr('Here') }}</dt><dd data-testid="share-here">{{ here }}</dd></div>
      <div><dt>{{ tr('Whole quilt') }}</dt><dd data-testid="share">{{ share(view.share + mmDone / Math.max(view.whole_mm, 1)) }}</dd></div>
      <div><dt>{{ tr('Bobbin left, about') }}</dt><dd data-testid="bobbin-left">{{ bobbin }} <small v-if="bobbinWords">{{ bobbinWords }}</small></dd></div>
      <div><dt>{{ tr('Sewing time today') }}</dt><dd>{{ clock(view.today + gone) }}</dd></div>
      <div><dt>{{ tr('Next rest in') }}</dt><dd :class="{ madder: rest === 'now' }">{{ rest }}</dd></div>
      <div><dt>{{ tr('Next thread cut') }}</dt><dd>{{ stop }}</dd></div>
      <div v-if="machine"><dt>{{ tr('“{name}” counts', { name: machine.name }) }}</dt><dd data-testid="followed">{{ counted(machine.stitches, '{count} stitch', '{count} stitches') }}</dd></div>
    </dl>
    <v-btn v-if="canSpeak()" class="chip" :aria-pressed="aloud" :title="tr('Your browser reads each step aloud')" data-testid="aloud" @click="aloud = !aloud">{{ aloud ? tr('Stop reading') : tr('Read to me') }}</v-btn>
    <v-btn class="plain" data-testid="leave" :title="tr('Escape')" @click="$emit('leave')">{{ tr('Leave the machine') }}</v-btn>
  </footer>
</template>

<style scoped>
footer { background: var(--paper); border-top: 1px solid var(--rule); display: flex; align-items: center; justify-content: space-between; gap: 20px; padding: 0 20px; min-height: 66px; }
dl { flex: 1; display: flex; flex-wrap: wrap; gap: 2px 28px; }
dt { font-size: 14px; color: var(--soft); }
dd { font-size: 19px; font-weight: 700; line-height: 1.25; }
small { font-size: 14px; font-weight: 400; }
.madder { color: var(--madder); }
@media (max-width: 900px) { footer { min-height: 52px; padding: 4px 14px; gap: 10px; } dl { gap: 2px 18px; } dt { font-size: 13px; } dd { font-size: 16px; } }
@media (max-width: 600px) { footer { flex-wrap: wrap; justify-content: center; } dl > div:nth-child(n + 3) { display: none; } }
.plain { min-height: 44px; font-size: 15px; white-space: nowrap; }
</style>
