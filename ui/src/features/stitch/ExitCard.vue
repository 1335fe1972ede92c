<script setup lang="ts">
/** The cost of the pinned start and end, and spacings that end there without a detour. */
import { shallowRef, watch } from 'vue'
import { api, type Views } from '../../api/client'
import WordsText from '../../parts/WordsText.vue'
import { useAsk } from '../../state/ask'
import { useQuilt } from '../../state/quilt'
import { tr } from '../../texts'

const props = defineProps<{ here: Views['HereView'] }>()
const quilt = useQuilt()
const exit = shallowRef<Views['PinCostView']>()
const { ask, drop } = useAsk()

async function look() {
  drop()
  exit.value = undefined
  if (!(props.here.start || props.here.end) || props.here.fault) return
  exit.value = await ask((signal) => api.pinOptions(quilt.id, { unit: quilt.unit, number: props.here.number }, signal))
}
const take = (offer: Views['PinOffer']) => quilt.set({ kind: 'fill', zone: offer.zone, place: null, fill: offer.fill })
watch(() => props.here, () => void look(), { immediate: true })
</script>

<template>
  <div v-if="exit?.costs.length" class="card weld stack" data-testid="exit">
    <p><WordsText :words="exit.costs" /></p>
    <template v-if="exit.offers.length">
      <p class="quiet">{{ tr('These spacings end there without a detour:') }}</p>
      <v-btn v-for="(offer, k) in exit.offers" :key="k" class="plain" :data-testid="`exit-${k}`" @click="take(offer)"><WordsText :words="offer.words" /></v-btn>
    </template>
  </div>
</template>

<style scoped>
button { text-align: left; }
</style>
