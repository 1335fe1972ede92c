<script setup lang="ts">
/** A sheet at true size: its content, paper and printer, and other files. */
import { computed } from 'vue'
import type { Views, Words } from '../../api/client'
import FoldCard from '../../parts/FoldCard.vue'
import { useExports } from '../../state/exports'
import { useQuilt } from '../../state/quilt'
import { useZone } from '../../state/zone'
import PrinterCard from './PrinterCard.vue'
import { KINDS, PAPERS, type Sheet } from './sheet'
import { tr } from '../../texts'

const props = defineProps<{ marks: Views['MarksView'] }>()
const sheet = defineModel<Sheet>({ required: true })
const exports = useExports()
const quilt = useQuilt()
const zone = useZone()

const set = (values: Partial<Sheet>) => (sheet.value = { ...sheet.value, ...values })
const query = computed(() => {
  const { paper, kind, scope, back, printer } = sheet.value
  return { unit: quilt.unit, place: zone.place, layer: zone.layer, method: props.marks.method, paper, kind, scope, back, printer }
})
const href = (key: string) => exports.href(key, { quilt: quilt.id, zone: zone.key }, query.value)
const SCOPES = { zone: tr('this zone'), block: tr('the whole block'), repeat: tr('its repeats') } as const
const says = computed((): Words => [[KINDS.find(([kind]) => kind === sheet.value.kind)?.[1], SCOPES[sheet.value.scope], PAPERS.find(([paper]) => paper === sheet.value.paper)?.[1]].join(' · ')])
const files = computed(() => exports.list.filter((one) => one.of_sheet && (one.needs === 'ticks' ? props.marks.edges.length : one.needs === 'strokes' ? props.marks.strokes.length : true)))
</script>

<template>
  <section class="print">
    <p class="quiet" data-testid="pages"><b class="label">{{ tr('At true size') }}</b> {{ marks.pages ? marks.pages_words : '' }}</p>
    <p v-if="!marks.pages" class="card" :class="marks.at_the_table ? 'madder' : 'weld'" :role="marks.at_the_table ? 'alert' : 'status'">{{ marks.pages_words }}</p>
    <a v-else class="do" :href="href('sheet-pdf')" data-testid="pdf">{{ exports.label('sheet-pdf') }}</a>
    <p class="card weld">{{ marks.caution }}</p>
    <FoldCard name="Mark sheet" :title="tr('Mark sheet')" :says="says">
      <div class="chips" role="group" :aria-label="tr('What is on it')">
        <v-btn v-for="[key, label, title] in KINDS.filter(([kind]) => marks.by_ruler || kind !== 'ruler edges')" :key="key" class="chip" :title="title" :aria-pressed="sheet.kind === key" :data-testid="`kind-${key.replace(' ', '-')}`" @click="set({ kind: key })">{{ label }}</v-btn>
      </div>
      <div class="chips" role="group" :aria-label="tr('Of what')">
        <v-btn class="chip" :aria-pressed="sheet.scope === 'zone'" @click="set({ scope: 'zone' })">{{ tr('This zone') }}</v-btn>
        <v-btn class="chip" :aria-pressed="sheet.scope === 'block'" data-testid="of-block" @click="set({ scope: 'block' })">{{ tr('The whole block') }}</v-btn>
        <v-btn v-if="marks.repeats || sheet.scope === 'repeat'" class="chip" :aria-pressed="sheet.scope === 'repeat'" data-testid="of-repeat" :title="tr('as many whole repeats as fit on a page, to place again and again along the border')" @click="set({ scope: 'repeat' })">{{ tr('Its repeats') }}</v-btn>
        <v-btn class="chip" :aria-pressed="sheet.back" data-testid="mirrored" :title="tr('mirrored, to place on the quilt’s back')" @click="set({ back: !sheet.back })">{{ tr('For the back') }}</v-btn>
      </div>
      <div class="between">
        <label class="label" for="paper">{{ tr('Paper') }}</label>
        <select id="paper" :value="sheet.paper" data-testid="paper" @change="set({ paper: ($event.target as HTMLSelectElement).value as Sheet['paper'] })">
          <option v-for="[key, label] in PAPERS" :key="key" :value="key">{{ label }}</option>
        </select>
      </div>
      <PrinterCard :chosen="sheet.printer" :paper="sheet.paper" @choose="set({ printer: $event })" />
      <div class="chips files">
        <a v-for="one in files" :key="one.key" class="chip" :href="href(one.key)" :data-testid="one.key">{{ one.label }}</a>
      </div>
    </FoldCard>
  </section>
</template>

<style scoped>
section { display: grid; gap: 9px; }
.do { display: grid; place-items: center; min-height: 48px; border-radius: 10px; background: var(--indigo-fill); color: #fff; font-size: 17px; font-weight: 700; text-decoration: none; }
a.chip { text-decoration: none; color: var(--indigo); }
select { height: 34px; border: 1px solid var(--rule); border-radius: 8px; background: var(--field); padding: 0 8px; font: inherit; font-size: 14px; }
</style>
