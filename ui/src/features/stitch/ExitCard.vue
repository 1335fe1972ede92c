<script setup lang="ts">
/** What it costs to begin and end where she wants, and spacings that end there by themselves. */
import { onBeforeUnmount, shallowRef, watch } from 'vue'
import { api, Problem, type Views } from '../../api/client'
import WordsText from '../../parts/WordsText.vue'
import { useQuilt } from '../../state/quilt'

const props = defineProps<{ here: Views['HereView'] }>()
const quilt = useQuilt()
const exit = shallowRef<Views['ExitView']>()
let asking: AbortController | undefined

async function ask() {
  asking?.abort()
  exit.value = undefined
  if (!(props.here.start || props.here.end) || props.here.fault) return
  const mine = (asking = new AbortController())
  try {
    const found = await api.exit(quilt.id, { unit: quilt.unit, number: props.here.number }, mine.signal)
    if (mine === asking) exit.value = found
  } catch (error) {
    if (!mine.signal.aborted && !(error instanceof Problem)) throw error
  }
}
async function take(offer: Views['ExitOffer']) {
  quilt.keep(`${offer.zone} exit`, { kind: 'fill', zone: offer.zone, place: null, fill: offer.fill })
  await quilt.flush()
  await quilt.take()
}
watch(() => props.here, () => void ask(), { immediate: true })
onBeforeUnmount(() => asking?.abort())
</script>

<template>
  <div v-if="exit?.costs.length" class="card weld stack" data-testid="exit">
    <p><WordsText :words="exit.costs" /></p>
    <template v-if="exit.offers.length">
      <p class="quiet">These end there by themselves:</p>
      <button v-for="(offer, k) in exit.offers" :key="k" class="plain" :data-testid="`exit-${k}`" @click="take(offer)"><WordsText :words="offer.words" /></button>
    </template>
  </div>
</template>

<style scoped>
button { text-align: left; }
</style>
