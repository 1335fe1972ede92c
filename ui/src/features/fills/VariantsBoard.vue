<script setup lang="ts">
/** The kept variants side by side, with their costs and how they differ from the first. */
import { computed, onMounted, ref } from 'vue'
import ZonePicture from '../../parts/ZonePicture.vue'
import WordsText from '../../parts/WordsText.vue'
import { useQuilt } from '../../state/quilt'
import { useVariants } from '../../state/variants'
import { useZone } from '../../state/zone'
import { counted, tr } from '../../texts'

const quilt = useQuilt()
const zone = useZone()
const variants = useVariants()
const heading = ref<HTMLElement>()
const cards = computed(() => variants.pinned?.cards ?? [])
const now = (fill: unknown) => JSON.stringify(fill) === JSON.stringify(zone.plan?.fill)
onMounted(() => heading.value?.focus())
</script>

<template>
  <section class="board" :aria-label="tr('Variants')" data-testid="variants-board" @keydown.esc.stop="variants.close()">
    <header>
      <h2 ref="heading" tabindex="-1">{{ counted(cards.length, '{name}: {count} variant', '{name}: {count} variants', { name: zone.plan?.name }) }}</h2>
      <v-btn class="chip" @click="variants.close()">{{ tr('Back to the quilt') }}</v-btn>
    </header>
    <p v-if="variants.trouble" class="card madder" role="alert">{{ variants.trouble }}</p>
    <p v-else-if="!variants.pinned" class="quiet" role="status">{{ tr('Drawing the variants …') }}</p>
    <table v-else :style="{ '--many': cards.length }">
      <thead>
        <tr>
          <td />
          <th v-for="(card, k) in cards" :key="k" scope="col">
            <span class="picture"><ZonePicture :rings="variants.pinned.rings" :patches="variants.pinned.patches" :drawing="card.drawing" :fabrics="quilt.view!.fabrics" /></span>
            <b>{{ card.label }}</b>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in variants.pinned.table" :key="row.label">
          <th scope="row">{{ row.label }}</th>
          <td v-for="(cell, k) in row.cells" :key="k"><WordsText :words="cell" /> <small v-if="row.against[k]">{{ row.against[k] }}</small></td>
        </tr>
      </tbody>
      <tfoot>
        <tr>
          <td />
          <td v-for="(card, k) in cards" :key="k">
            <b v-if="now(card.fill)" class="now">{{ tr('On the quilt now') }}</b>
            <v-btn v-else class="chip" :data-testid="`make-so-${k}`" @click="variants.take(card.fill)">{{ tr('Use this variant') }}</v-btn>
            <v-btn class="plain" :aria-label="tr('Remove {label}', { label: card.label })" @click="variants.unpin(k)">{{ tr('Remove') }}</v-btn>
          </td>
        </tr>
      </tfoot>
    </table>
    <p class="quiet">{{ tr('Times and thread cuts are estimates. On the quilt, the v key shows one variant after the other.') }}</p>
  </section>
</template>

<style scoped>
.board { position: absolute; inset: 0; background: var(--muslin); overflow-y: auto; padding: 14px 18px; display: flex; flex-direction: column; gap: 12px; z-index: 5; }
header { display: flex; justify-content: space-between; align-items: center; gap: 12px; }
header .chip { white-space: nowrap; }
h2:focus-visible { outline: none; }
table { border-collapse: collapse; table-layout: fixed; width: 100%; max-width: calc(130px + 300px * var(--many)); }
thead td { width: 118px; }
thead th { padding: 0 6px 8px; font-weight: 400; text-align: center; }
.picture { display: block; height: min(25vh, 300px); background: var(--paper); border: 1px solid var(--rule); border-radius: 10px; padding: 8px; margin-bottom: 6px; }
tbody th { text-align: left; font-weight: 400; color: var(--soft); font-size: 14px; padding: 3px 0; white-space: nowrap; }
tbody td { text-align: center; font-size: 15px; padding: 3px 6px; border-bottom: 1px dashed var(--rule); font-weight: 700; }
tbody th { border-bottom: 1px dashed var(--rule); }
small { color: var(--madder); font-weight: 400; font-size: 13px; }
tfoot td { text-align: center; padding-top: 10px; }
.now { color: var(--leaf); font-size: 14px; }
</style>
