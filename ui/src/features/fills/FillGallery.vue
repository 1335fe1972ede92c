<script setup lang="ts">
/** Every fill that suits the zone, drawn in it, in a chosen order. */
import { onMounted, ref } from 'vue'
import ZonePicture from '../../parts/ZonePicture.vue'
import WordsText from '../../parts/WordsText.vue'
import { useQuilt } from '../../state/quilt'
import { useVariants, type Sort } from '../../state/variants'
import { useZone } from '../../state/zone'
import { tr } from '../../texts'

const quilt = useQuilt()
const zone = useZone()
const variants = useVariants()
const sorts: [Sort, string][] = [['minutes', tr('quickest first')], ['ease', tr('easiest first')], ['density', tr('most open first')], ['marks', tr('fewest marks first')]]
const heading = ref<HTMLElement>()
onMounted(() => heading.value?.focus())
</script>

<template>
  <section class="gallery" :aria-label="tr('Every fill in this zone')" data-testid="gallery-board" @keydown.esc.stop="variants.close()">
    <header>
      <h2 ref="heading" tabindex="-1">{{ tr('{name}: every fill that fits', { name: zone.plan?.name }) }}</h2>
      <v-btn class="chip" @click="variants.close()">{{ tr('Back to the quilt') }}</v-btn>
    </header>
    <div class="sorts chips" role="group" :aria-label="tr('Order')">
      <v-btn v-for="[key, label] in sorts" :key="key" class="chip" :aria-pressed="variants.sort === key" @click="variants.sort = key">{{ label }}</v-btn>
    </div>
    <p v-if="variants.trouble" class="card madder" role="alert">{{ variants.trouble }}</p>
    <p v-else-if="!variants.gallery" class="quiet" role="status">{{ tr('Drawing every fill in this zone …') }}</p>
    <ul v-else class="cards">
      <li v-for="card in variants.cards" :key="card.kind">
        <button class="one" :data-testid="`card-${card.kind}`" :title="card.help" @click="variants.take(card.fill)">
          <span class="picture"><ZonePicture :rings="variants.gallery.rings" :patches="variants.gallery.patches" :drawing="card.drawing" :fabrics="quilt.view!.fabrics" /></span>
          <b>{{ card.label }}</b>
          <span class="said"><template v-for="row in card.said" :key="row.label[0] as string"><span><WordsText :words="row.label" /></span><span><WordsText :words="row.words" /></span></template></span>
        </button>
        <v-btn class="plain" :aria-label="tr('Keep {label} as a variant', { label: card.label })" @click="variants.pin(card.fill)">{{ variants.pins.some((pin) => JSON.stringify(pin) === JSON.stringify(card.fill)) ? tr('Kept') : tr('Keep') }}</v-btn>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.gallery { position: absolute; inset: 0; background: var(--muslin); overflow-y: auto; padding: 14px 18px; display: flex; flex-direction: column; gap: 10px; z-index: 5; }
header { display: flex; justify-content: space-between; align-items: center; gap: 12px; }
header .chip { white-space: nowrap; }
h2:focus-visible { outline: none; }
.cards { list-style: none; display: grid; grid-template-columns: repeat(auto-fill, minmax(196px, 1fr)); gap: 12px; }
li { position: relative; display: grid; }
li .plain { position: absolute; right: 8px; top: 6px; background: var(--paper); border-radius: 6px; }
.one { display: grid; gap: 5px; align-content: start; background: var(--paper); border: 1px solid var(--rule); border-radius: 10px; padding: 8px 10px 9px; text-align: left; cursor: pointer; }
.one:hover, .one:focus-visible { border-color: var(--indigo); }
.picture { display: block; height: 150px; }
.said { display: grid; grid-template-columns: auto 1fr; gap: 1px 10px; align-items: center; font-size: 13px; color: var(--soft); }
.said span:nth-child(even) { text-align: right; color: var(--ink); }
</style>
