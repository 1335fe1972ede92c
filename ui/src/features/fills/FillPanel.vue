<script setup lang="ts">
/** The panel of the chosen zone: its fill, its parameters, the sum, the figures. */
import { computed, ref } from 'vue'
import FigureRows from '../../parts/FigureRows.vue'
import SumCard from '../../parts/SumCard.vue'
import LengthField from '../../parts/LengthField.vue'
import WordsText from '../../parts/WordsText.vue'
import { useQuilt } from '../../state/quilt'
import { useVariants } from '../../state/variants'
import { useZone } from '../../state/zone'
import type { Words } from '../../api/client'
import FieldControl from '../../parts/FieldControl.vue'
import FoldCard from '../../parts/FoldCard.vue'
import KnownList from '../../parts/KnownList.vue'
import { summary } from '../../parts/summary'
import FillChooser from './FillChooser.vue'
import FillReuse from './FillReuse.vue'
import LinePanel from './LinePanel.vue'
import MeetCard from './MeetCard.vue'
import { counted, tr } from '../../texts'

const emit = defineEmits<{ pick: [kind: 'edge' | 'corner' | 'point', field: string, choice: string]; show: [at: number[]] }>()
const quilt = useQuilt()
const zone = useZone()
const variants = useVariants()

/** An edge or a corner is chosen by a click on the drawing, not in a field. */
const ON_DRAWING = ['along', 'at', 'through']
const fields = computed(() => (zone.plan?.fields ?? []).filter((f) => f.used && !ON_DRAWING.includes(f.name)))
/** the values of any fill: only the core knows their meaning */
const fill = computed(() => zone.plan?.fill as Record<string, unknown> | null | undefined)
const spacing = computed(() => fields.value.filter((f) => f.name === 'spacing'))
/** The other settings by theme, in the order of the themes. */
const THEMES = ['Shape', 'Direction', 'Position', 'Rows', 'Small pieces']
const themes = computed(() => THEMES.map((theme) => ({ theme, fields: fields.value.filter((f) => f.theme === theme && f.name !== 'spacing') })).filter((one) => one.fields.length))
const sewing = computed((): Words => {
  const plan = zone.plan
  if (!plan) return []
  return [[plan.sew_with, plan.orders[plan.second_first ? 1 : 0] && tr('{orders} first', { orders: plan.orders[plan.second_first ? 1 : 0] })].filter(Boolean).join(' · ')]
})
/** spacings that suit the zone: a few, the others behind a button */
const FEW = 2
const allOffers = ref(false)
const offers = computed(() => (allOffers.value ? zone.plan?.offers : zone.plan?.offers.slice(0, FEW)) ?? [])
const figures = computed(() => [...(zone.plan?.figures ?? []), ...(zone.plan?.rows ?? [])])
const reuse = computed((): Words => [variants.pins.length ? counted(variants.pins.length, '{count} variant', '{count} variants') : tr('variants, copy, recipes')])
const told = computed((): Words => figures.value.find((row) => row.label[0] === tr('Density'))?.words ?? [])
const picked = computed((): Record<string, string> => {
  const at = fill.value?.at
  if (typeof at !== 'number') return {}
  return { edge: zone.plan?.edges[at]?.name ?? '', corner: zone.plan?.corners[at]?.name ?? '' }
})
const along = computed(() => {
  const edge = fill.value?.along
  return typeof edge === 'number' ? zone.plan?.edges[edge]?.name : ''
})
const alone = computed(() => (zone.plan?.times ?? 0) > 1 && !!fill.value)
const elsewhere = computed(() => zone.plan?.apart.reduce((sum, one) => sum + one.places.length, 0) ?? 0)
const CELLS = [['all', tr('the whole zone')], ['every other', tr('every other cell')], ['the others', tr('the other cells')]] as const
const error = (name: string) => (zone.wrong?.field === `fill.${name}` ? zone.wrong.message : undefined)
const loose = computed(() => {
  const wrong = zone.wrong
  return wrong && wrong.field !== 'along_edge' && !fields.value.some((f) => wrong.field === `fill.${f.name}`) ? wrong.message : ''
})
function set(name: string, value: unknown) {
  if (name === 'origin' || name === 'about' || name === 'base') return void zone.setAll({ [name]: value, at: null })
  if (name === 'crossed_from') {
    // the lines do not move: only the direction from which their angle is measured changes
    const { angle, second_angle: second } = fill.value as { angle: number; second_angle: number }
    return void zone.setAll({ crossed_from: value, second_angle: (((value === 'first set' ? second - angle : second + angle) % 180) + 180) % 180 })
  }
  void zone.set(name, value)
}
</script>

<template>
  <header>
    <div class="top"><h2>{{ zone.plan?.name }}</h2><v-btn class="plain" data-testid="all-zones" @click="zone.choose('')">{{ tr('All zones') }}</v-btn></div>
    <p class="quiet">
      {{ zone.plan?.occurs }}
      <template v-if="zone.plan?.here_apart"> · <b>{{ tr('only in this block') }}</b>, {{ zone.plan.where }} <v-btn class="plain" data-testid="join" @click="zone.setApart(false)">{{ tr('Same as the others again') }}</v-btn></template>
      <v-btn v-else-if="alone" class="plain" :title="counted(zone.plan!.times - elsewhere, 'One block follows your changes here', 'All {count} blocks follow your changes here')" data-testid="apart" @click="zone.setApart(true)">{{ tr('Only this block …') }}</v-btn>
    </p>
    <ul v-if="zone.plan?.apart.length" class="others">
      <li v-for="one in zone.plan.apart" :key="one.where">{{ one.where }}: {{ one.fill }}</li>
    </ul>
  </header>
  <div v-if="zone.plan?.over || zone.layer" class="chips" role="group" :aria-label="tr('Which fill')">
    <v-btn class="chip" :aria-pressed="zone.layer === 0" data-testid="layer-0" @click="zone.turnTo(0)">{{ tr('The fill') }}</v-btn>
    <v-btn class="chip" :aria-pressed="zone.layer === 1" data-testid="layer-1" @click="zone.turnTo(1)">{{ tr('On top{over}', { over: zone.plan?.over ? `: ${zone.plan.over}` : '' }) }}</v-btn>
    <v-btn v-if="zone.plan?.over" class="plain" data-testid="take-off" @click="zone.takeOff()">{{ tr('Remove') }}</v-btn>
  </div>
  <p v-if="zone.layer && !fill" class="card leaf">{{ tr('Choose the fill to sew on top of the first.') }}</p>
  <FillChooser :key="zone.layer" />
  <fieldset v-if="zone.layer && fill" class="cells">
    <legend class="label">{{ tr('Fill these cells') }}</legend>
    <div class="chips">
      <v-btn v-for="[cells, label] in CELLS" :key="cells" class="chip" :aria-pressed="zone.plan?.cells === cells" @click="zone.setCells(cells)">{{ label }}</v-btn>
    </div>
  </fieldset>
  <p v-if="loose" class="card madder" role="alert">{{ loose }}</p>
  <template v-if="zone.plan && fill">
    <FieldControl
      v-for="field in spacing" :key="field.name + quilt.taken" :field="field" :error="error(field.name)" :unit="quilt.unit" :picked="picked"
      @set="set(field.name, $event)" @step="zone.step(field.name, $event)"
    />
    <div v-if="zone.plan.offers.length || zone.plan.can_meet" class="chips tight" :title="tr('even: no leftover sliver · corners: a line through every corner')" role="group" :aria-label="tr('Spacings that suit this zone')">
      <v-btn v-for="offer in offers" :key="offer.value + offer.label" class="chip offer" :aria-pressed="offer.now" data-testid="offer" @click="zone.setAll(offer.values)">
        <b><WordsText :words="offer.words" /></b> <WordsText :words="[offer.label]" />
      </v-btn>
      <v-btn v-if="zone.plan.offers.length > FEW" class="plain" data-testid="more-offers" @click="allOffers = !allOffers">{{ allOffers ? tr('fewer') : tr('{offers} more', { offers: zone.plan.offers.length - FEW }) }}</v-btn>
      <MeetCard v-if="zone.plan.can_meet" />
    </div>
    <v-btn v-if="zone.plan.alike.length && !zone.layer" class="chip alone" data-testid="fill-alike" @click="zone.fillAlike()">
      {{ counted(zone.plan.alike.length, 'The same in the other zone of this shape', 'The same in the {count} other zones of this shape') }}
    </v-btn>
    <LinePanel v-if="zone.ruler" :ruler="zone.ruler" />
    <SumCard v-else-if="zone.plan.sum" :sum="zone.plan.sum" :heading="zone.plan.sew_with === 'walking foot' ? tr('How a line is placed') : tr('Where the ruler goes')" @choose="zone.set('spacing', $event)">
      <v-btn v-if="zone.lines" class="plain" data-testid="show-ruler" @click="zone.next(0)">{{ tr('Show the ruler') }}</v-btn>
    </SumCard>
    <v-btn v-else-if="zone.lines" class="chip alone" data-testid="show-ruler" @click="zone.next(0)">{{ tr('Show what sews this line') }}</v-btn>
    <KnownList :known="zone.plan.known" @mend="zone.setAll($event)" @show="emit('show', $event)" />
    <div class="settings">
      <FoldCard name="Compare and reuse" :title="tr('Compare and reuse')" :says="reuse"><FillReuse /></FoldCard>
      <FoldCard v-for="one in themes" :key="one.theme" :name="one.theme" :title="tr(one.theme)" :says="summary(one.fields)" :open="one.theme === 'Shape'">
        <div class="fields">
          <FieldControl
            v-for="field in one.fields" :key="field.name + quilt.taken" :field="field" :error="error(field.name)" :unit="quilt.unit" :picked="picked"
            @set="set(field.name, $event)" @step="zone.step(field.name, $event)" @pick="(kind, choice) => emit('pick', kind, field.name, choice)"
          >
            <v-btn v-if="field.name === 'angle'" class="plain" data-testid="along" @click="along ? zone.setAll({ along: null }) : emit('pick', 'edge', 'along', '')">
              {{ along ? tr('counted along {along}: undo', { along }) : tr('along a seam …') }}
            </v-btn>
          </FieldControl>
        </div>
        <LengthField
          v-if="one.theme === 'Direction' && zone.plan.step" :key="`step${quilt.taken}`" :field="zone.plan.step" :unit="quilt.unit" compact
          :error="zone.wrong?.field === 'along_edge' ? zone.wrong.message : undefined" @typed="zone.setStep($event)"
        />
      </FoldCard>
      <FoldCard name="Sewing" :title="tr('Sewing')" :says="sewing">
        <fieldset class="cells">
          <legend class="label">{{ tr('Sewn with the') }}</legend>
          <div class="chips">
            <v-btn v-for="foot in ['ruler foot', 'walking foot']" :key="foot" class="chip" :aria-pressed="zone.plan.sew_with === foot" :data-testid="`zone-${foot.replace(' ', '-')}`" @click="zone.layWith(zone.plan.own_ruler || null, foot)">{{ tr(foot) }}</v-btn>
          </div>
        </fieldset>
        <fieldset v-if="zone.plan.orders.length" class="cells">
          <legend class="label">{{ tr('Sewn first') }}</legend>
          <div class="chips">
            <v-btn class="chip" :aria-pressed="!zone.plan.second_first" data-testid="set-first" @click="zone.sewInOrder({ second_first: false })">{{ zone.plan.orders[0] }}</v-btn>
            <v-btn class="chip" :aria-pressed="zone.plan.second_first" data-testid="set-second" @click="zone.sewInOrder({ second_first: true })">{{ zone.plan.orders[1] }}</v-btn>
          </div>
        </fieldset>
        <fieldset v-if="zone.plan.sum" class="cells">
          <legend class="label">{{ tr('Lines begin') }}</legend>
          <div class="chips">
            <v-btn class="chip" :aria-pressed="!zone.plan.begin_other" data-testid="begin-away" @click="zone.sewInOrder({ begin_other: false })">{{ tr('Away from the machine’s body') }}</v-btn>
            <v-btn class="chip" :aria-pressed="zone.plan.begin_other" data-testid="begin-towards" @click="zone.sewInOrder({ begin_other: true })">{{ tr('Beside the machine’s body') }}</v-btn>
          </div>
        </fieldset>
        <p v-if="zone.plan.sum?.instead.length" class="quiet"><WordsText :words="zone.plan.sum.instead" /></p>
        <template v-for="field in zone.plan.ends.filter((one) => one.used)" :key="field.name">
          <FieldControl v-if="field.control === 'choice'" :field="field" :unit="quilt.unit" :picked="{}" @set="zone.endLines({ line_ends: ($event || null) as never })" />
          <LengthField v-else :field="field" :error="zone.wrong?.field === 'edge' ? zone.wrong.message : undefined" :unit="quilt.unit" late compact @entered="zone.endLines({ edge: $event })" />
        </template>
      </FoldCard>
      <FoldCard name="Figures" :title="tr('Figures')" :says="told"><FigureRows :rows="figures" /></FoldCard>
    </div>
    <div v-if="!zone.layer" class="last">
      <v-btn v-if="!zone.plan.over" class="plain" data-testid="on-top" @click="zone.turnTo(1)">{{ tr('Add a second fill on top …') }}</v-btn>
      <v-btn class="plain" @click="zone.leaveOpen()">{{ tr('Leave this zone unquilted') }}</v-btn>
    </div>
  </template>
  <p v-else-if="zone.plan && !zone.layer" class="card leaf">{{ tr('This zone is unquilted. Choose a fill above to quilt it.') }}</p>
</template>

<style scoped>
.top { display: flex; justify-content: space-between; align-items: baseline; gap: 10px; }
.settings { display: flex; flex-direction: column; gap: 12px; }
.others { list-style: none; font-size: 13px; color: var(--soft); border-left: 3px solid var(--rule); padding-left: 8px; margin-top: 4px; }
.tight { gap: 5px; margin-top: -6px; }
.tight .chip { min-height: 32px; padding: 1px 9px; font-size: 13px; }
.fields { display: grid; grid-template-columns: 1fr 1fr; gap: 12px 12px; align-items: end; }
.fields > :deep(fieldset), .fields > .wide { grid-column: 1 / -1; }
.fields > :deep(.half) { grid-column: auto; }
.alone { justify-self: start; }
.last { display: flex; flex-wrap: wrap; gap: 4px 14px; }
.cells { border: 0; padding: 0; margin: 0; }
.cells .label { padding: 0; margin-bottom: 5px; }
</style>
