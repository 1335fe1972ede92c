<script setup lang="ts">
/** Copies a fill that worked in this block to a zone in which nothing is sewn yet. */
import { computed, ref, watch } from 'vue'
import { useLog } from '../../state/log'
import { useQuilt } from '../../state/quilt'
import { tr } from '../../texts'

const log = useLog()
const quilt = useQuilt()
const source = ref('')
const target = ref('')
const said = ref('')
const sources = computed(() => (log.block?.there ?? []).filter((one) => one.fill))
const begun = computed(() => new Set(log.view?.zones.map((one) => one.zone)))
const targets = computed(() => quilt.zones.filter((one) => !one.on_top && !begun.value.has(one.key)))
const first = (keys: string[], now: string) => (keys.includes(now) ? now : keys[0] ?? '')
watch([sources, targets], () => {
  source.value = first(sources.value.map((one) => one.zone), source.value)
  target.value = first(targets.value.map((one) => one.key), target.value)
}, { immediate: true })
async function copy() {
  const from = sources.value.find((one) => one.zone === source.value)
  const to = targets.value.find((one) => one.key === target.value)
  said.value = ''
  if (from?.fill && to && (await log.copyFill(from.fill, to.key))) said.value = tr('“{name}” is filled like “{name2}” now. Undo takes it back.', { name: to.name, name2: from.name })
}
</script>

<template>
  <div v-if="sources.length && targets.length" class="next" data-testid="copy-next">
    <h3>{{ tr('Copy to the next') }}</h3>
    <div class="row">
      <select v-model="source" :aria-label="tr('Fill to copy')" data-testid="copy-from"><option v-for="one in sources" :key="one.zone" :value="one.zone">{{ one.name }}</option></select>
      <span>{{ tr('to') }}</span>
      <select v-model="target" :aria-label="tr('Zone where nothing is sewn yet')" data-testid="copy-to"><option v-for="one in targets" :key="one.key" :value="one.key">{{ one.name }}</option></select>
      <v-btn class="chip" data-testid="copy-fill" @click="copy()">{{ tr('Copy the fill') }}</v-btn>
    </div>
    <p v-if="said" class="card leaf" role="status">{{ said }}</p>
    <p v-if="log.wrong?.field === 'copy'" class="wrong" role="alert">{{ log.wrong.message }}</p>
  </div>
</template>

<style scoped>
.next { display: grid; gap: 6px; }
.row { display: flex; flex-wrap: wrap; align-items: center; gap: 6px 8px; font-size: 14px; }
select { max-width: 140px; min-height: 36px; border: 1px solid var(--rule); border-radius: 8px; padding: 4px 6px; background: var(--field); color: inherit; font: inherit; }
</style>
