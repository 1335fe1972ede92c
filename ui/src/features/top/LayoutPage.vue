<script setup lang="ts">
/** The arrangement of blocks: straight or on point, how many, sashing, borders, different sizes. */
import { computed, ref } from 'vue'
import type { Views, Words } from '../../api/client'
import FoldCard from '../../parts/FoldCard.vue'
import LengthField from '../../parts/LengthField.vue'
import { useQuilt } from '../../state/quilt'
import { useTop } from '../../state/top'
import FabricPick from './FabricPick.vue'
import { tr } from '../../texts'

interface Sashing { width: string; fabric: string; cornerstones: string | null; outer: boolean }
type Border = Views['Border']
interface Layout { sashing: Sashing | null; widths?: (string | null)[]; heights?: (string | null)[]; triangles?: string }

const CORNERS = [
  ['top and bottom through', tr('top through')],
  ['sides through', tr('sides through')],
  ['mitred', tr('mitred')],
  ['squares', tr('corner squares')],
] as const
const quilt = useQuilt()
const top = useTop()
const differing = ref(false)
const layout = computed(() => top.view!.doc.layout as Layout)
const borders = computed(() => top.view!.doc.borders as Border[])
const onPoint = computed(() => top.view!.arrangement === 'on point')
const fabrics = computed(() => top.view!.fabrics)
const metric = computed(() => quilt.unit === 'mm')

const count = (columns: number, rows: number) => top.change('count', { kind: 'count', columns, rows })
function sashing(values: Partial<Sashing> | null) {
  const fresh = { width: metric.value ? '50 mm' : '2 in', fabric: fabrics.value.at(-1)!.key, cornerstones: null, outer: true }
  void top.change('sash', () => ({ kind: 'sashing', sashing: values && { ...fresh, ...layout.value.sashing, ...values } }))
}
function border(at: number, values: Partial<Border>) {
  void top.change(`border-${at + 1}`, () => ({ kind: 'borders', borders: borders.value.map((b, k) => (k === at ? { ...b, ...values } : b)) }))
}
const addBorder = () =>
  top.change('borders', () => ({
    kind: 'borders',
    borders: [...borders.value, { width: metric.value ? '80 mm' : '3 in', fabric: fabrics.value[(borders.value.length + 1) % fabrics.value.length]!.key, corners: 'top and bottom through', corner_fabric: null }],
  }))
const dropBorder = (at: number) => top.change('borders', () => ({ kind: 'borders', borders: borders.value.filter((_, k) => k !== at) }))
const width = (field: Views['FieldView'] | null | undefined): Words => (field?.shown ? [field.shown] : [field?.text ?? ''])
const sashesSay = computed((): Words => (layout.value.sashing ? [...width(top.view?.sash_width), layout.value.sashing.outer && !onPoint.value ? tr(', all around') : ''] : ['none']))
const bordersSay = computed((): Words => (borders.value.length ? top.view!.border_widths.flatMap((field, k) => [...(k ? [', '] : []), ...width(field)]) : ['none']))
function size(field: Views['FieldView'], value: string) {
  const [name, at] = field.name.split('.') as ['widths' | 'heights', string]
  void top.change(field.name, () => {
    const given = { widths: top.view!.widths.map((f) => f.text || null), heights: top.view!.heights.map((f) => f.text || null) }
    given[name][Number(at)] = value || null
    return { kind: 'sizes', ...given }
  })
}
</script>

<template>
  <section v-if="top.view" class="stack">
    <div class="between">
      <span>{{ tr('Blocks across') }}</span>
      <span class="chips"><v-btn class="chip" :aria-label="tr('One column less')" @click="count(top.view.columns - 1, top.view.rows)">−</v-btn><b class="count" data-testid="columns">{{ top.view.columns }}</b><v-btn class="chip" :aria-label="tr('One column more')" @click="count(top.view.columns + 1, top.view.rows)">+</v-btn></span>
    </div>
    <div class="between">
      <span>{{ tr('Blocks down') }}</span>
      <span class="chips"><v-btn class="chip" :aria-label="tr('One row less')" @click="count(top.view.columns, top.view.rows - 1)">−</v-btn><b class="count" data-testid="rows">{{ top.view.rows }}</b><v-btn class="chip" :aria-label="tr('One row more')" @click="count(top.view.columns, top.view.rows + 1)">+</v-btn></span>
    </div>
    <div class="chips" role="group" :aria-label="tr('How the blocks are set')">
      <v-btn class="chip" :aria-pressed="!onPoint" @click="top.change('arrangement', { kind: 'arrangement', on_point: false })">{{ tr('Straight set') }}</v-btn>
      <v-btn class="chip" :aria-pressed="onPoint" data-testid="on-point" @click="top.change('arrangement', { kind: 'arrangement', on_point: true })">{{ tr('On point') }}</v-btn>
    </div>
    <p v-if="top.errorAt('count') || top.errorAt('arrangement')" class="wrong" role="alert">{{ top.errorAt('count') || top.errorAt('arrangement') }}</p>
    <FabricPick v-if="onPoint" :fabrics="fabrics" :model-value="layout.triangles ?? ''" :label="tr('Setting triangles')" @update:model-value="top.change('arrangement', { kind: 'arrangement', on_point: true, triangles: $event })" />
    <template v-else>
      <v-btn class="plain start" :aria-expanded="differing" data-testid="differing" @click="differing = !differing">{{ differing ? tr('Hide sizes of rows and columns') : tr('Rows or columns of other sizes …') }}</v-btn>
      <div v-if="differing" class="two">
        <LengthField v-for="field in [...top.view.widths, ...top.view.heights]" :key="field.name" :field="field" :error="top.errorAt(field.name)" :unit="quilt.unit" late @entered="size(field, $event)" />
      </div>
    </template>

    <div>
    <FoldCard name="Sashes" :title="tr('Sashes')" :says="sashesSay">
    <div class="chips" role="group" :aria-label="tr('Sashes')">
      <v-btn class="chip" :aria-pressed="!layout.sashing" @click="sashing(null)">{{ tr('None') }}</v-btn>
      <v-btn class="chip" :aria-pressed="!!layout.sashing" data-testid="sashes" @click="sashing({})">{{ tr('Sashes') }}</v-btn>
      <template v-if="layout.sashing && !onPoint">
        <v-btn class="chip" :aria-pressed="layout.sashing.outer" @click="sashing({ outer: !layout.sashing.outer })">{{ tr('All around too') }}</v-btn>
      </template>
    </div>
    <template v-if="layout.sashing && top.view.sash_width">
      <LengthField :field="top.view.sash_width" :error="top.errorAt('sash')" :unit="quilt.unit" late @entered="sashing({ width: $event })" />
      <FabricPick :fabrics="fabrics" :model-value="layout.sashing.fabric" :label="tr('Sashes')" @update:model-value="$event && sashing({ fabric: $event })" />
      <FabricPick :fabrics="fabrics" :model-value="layout.sashing.cornerstones" :label="tr('Cornerstones')" :none="tr('none')" @update:model-value="sashing({ cornerstones: $event })" />
    </template>
    <p v-else-if="top.errorAt('sash')" class="wrong" role="alert">{{ top.errorAt('sash') }}</p>
    </FoldCard>
    <FoldCard name="Borders" :title="tr('Borders, from the inside out')" :says="bordersSay" class="next">
    <div v-for="(one, k) in borders" :key="k" class="border">
      <div class="between"><b>{{ borders.length > 1 ? tr('Border {k}', { k: k + 1 }) : 'Border' }}</b><v-btn class="plain" @click="dropBorder(k)">{{ tr('Remove') }}</v-btn></div>
      <LengthField :field="top.view.border_widths[k]!" :error="top.errorAt(`border-${k + 1}`)" :unit="quilt.unit" late @entered="border(k, { width: $event })" />
      <FabricPick :fabrics="fabrics" :model-value="one.fabric" :label="tr('Fabric')" @update:model-value="$event && border(k, { fabric: $event })" />
      <div class="chips" role="group" :aria-label="tr('Corners')">
        <v-btn v-for="[key, label] in CORNERS" :key="key" class="chip small" :aria-pressed="one.corners === key" @click="border(k, { corners: key })">{{ label }}</v-btn>
      </div>
      <FabricPick v-if="one.corners === 'squares'" :fabrics="fabrics" :model-value="one.corner_fabric ?? one.fabric" :label="tr('Corner squares')" @update:model-value="border(k, { corner_fabric: $event })" />
    </div>
    <v-btn class="chip start" data-testid="add-border" @click="addBorder()">{{ tr('+ Add a border') }}</v-btn>
    <p v-if="top.errorAt('borders')" class="wrong" role="alert">{{ top.errorAt('borders') }}</p>
    </FoldCard>
    </div>
  </section>
</template>

<style scoped>
.two { display: grid; grid-template-columns: 1fr 1fr; gap: 10px; }
.border { display: grid; gap: 8px; border: 1px solid var(--rule); border-radius: 10px; padding: 10px 12px; background: var(--field); }
.small { padding: 2px 9px; }
.start { justify-self: start; }
</style>
