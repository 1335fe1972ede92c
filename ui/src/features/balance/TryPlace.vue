<script setup lang="ts">
/** Tries a kind of fill in another zone too, and shows where its center would be. Nothing changes until it is applied. */
import { computed, ref } from 'vue'
import { api, Problem, type Views } from '../../api/client'
import { useQuilt } from '../../state/quilt'
import { tr } from '../../texts'

const props = defineProps<{ name: string }>()
const emit = defineEmits<{ show: [at: number[]] }>()
const quilt = useQuilt()
const zone = ref('')
const tried = ref<Views['TryView']>()
const trouble = ref('')
const zones = computed(() => quilt.zones.filter((one) => !one.on_top && one.fill !== props.name))
const named = computed(() => quilt.zones.find((one) => one.key === zone.value)?.name ?? '')
async function look() {
  tried.value = undefined
  trouble.value = ''
  if (!zone.value) return
  try {
    tried.value = await api.tryPlace(quilt.id, { name: props.name, zone: zone.value, unit: quilt.unit })
    emit('show', tried.value.at)
  } catch (error) {
    if (!(error instanceof Problem)) throw error
    trouble.value = error.message
  }
}
async function fill() {
  if (!tried.value) return
  trouble.value = await quilt.fillZone(zone.value, tried.value.fill as Record<string, unknown>)
  if (!trouble.value) tried.value = undefined
}
</script>

<template>
  <div v-if="zones.length" class="try">
    <label>{{ tr('Try it in') }} <select v-model="zone" :data-testid="`try-${name}`" @change="look()"><option value="">{{ tr('no other zone') }}</option><option v-for="one in zones" :key="one.key" :value="one.key">{{ one.name }}</option></select></label>
    <template v-if="tried">
      <p role="status" data-testid="tried">{{ tr('With it in “{named}” too: {note}.', { named, note: tried.row.note }) }}</p>
      <v-btn class="chip" data-testid="try-fill" @click="fill()">{{ tr('Fill “{named}” like this', { named }) }}</v-btn>
    </template>
    <p v-if="trouble" class="wrong" role="alert">{{ trouble }}</p>
  </div>
</template>

<style scoped>
.try { display: grid; gap: 4px; justify-items: start; padding: 2px 0 6px; }
label { font-size: 13px; color: var(--soft); }
select { max-width: 190px; min-height: 32px; border: 1px solid var(--rule); border-radius: 8px; padding: 2px 6px; background: var(--field); color: var(--ink); font: inherit; font-size: 13px; }
p { font-size: 13px; }
</style>
