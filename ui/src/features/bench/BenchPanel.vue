<script setup lang="ts">
/** What the ruler makes where it is: its sum, its distance from everything, where to stop; and actions. */
import { computed } from 'vue'
import type { Views, Words } from '../../api/client'
import { COARSE, figure } from '../../bench/figure'
import { lengthOf, put } from '../../bench/lay'
import { placed, type Placing } from '../../canvas/view'
import FigureRows from '../../parts/FigureRows.vue'
import SumCard from '../../parts/SumCard.vue'
import WordsText from '../../parts/WordsText.vue'
import { useBench } from '../../state/bench'
import { useQuilt } from '../../state/quilt'
import { useZone } from '../../state/zone'
import CurveCard from './CurveCard.vue'
import { told, tr } from '../../texts'

const props = defineProps<{ placing: Placing }>()
const bench = useBench()
const quilt = useQuilt()
const zone = useZone()
const OVERLAP = 25.4
const SAME = 0.05

const fine = (mm: number) => figure(mm, quilt.unit)
const about = (mm: number) => figure(mm, quilt.unit, COARSE[quilt.unit] / 2, true)
const bare = (mm: number) => ({ ...fine(mm), unit: '' })
const name = (reference: number) => {
  const one = bench.view!.references[reference]!
  return one.kind === 'line' ? tr('a line') : one.name
}
const held = computed(() => bench.reading?.held ?? [])
const first = computed(() => held.value.find((one) => Math.abs(one.away) > SAME))
const runsAlong = computed(() => held.value.find((one) => Math.abs(one.away) <= SAME))

const sum = computed<Views['SumView'] | undefined>(() => {
  const one = first.value
  const foot = bench.view!.foot
  const blank = { kind: 'etched' as const, terms: [], total: { words: [], label: '' }, sentence: [], instead: [], offers: [], ruler: '' }
  if (!bench.edge?.straight) return undefined
  if (!one) return { ...blank, kind: 'none', sentence: [tr('No seam or line runs parallel to the ruler here. Mark the line, or turn the ruler.')] }
  const seam = bench.view!.references[one.reference]!.kind === 'seam'
  const total = { words: [fine(one.away)], label: seam ? tr('from the seam') : tr('apart') }
  if (one.etched !== null) {
    const mark: Words = one.etched ? told('{etched} mark', { etched: bare(one.etched) }) : [tr('edge')]
    return { ...blank, terms: [{ words: mark, label: tr('on {name}', { name: name(one.reference) }) }, { words: [bare(foot)], label: tr('your foot') }], total }
  }
  if (one.bare) return { ...blank, kind: 'behind', sentence: told('{name} shows {bare} before the edge: your foot makes up the rest, {away} in all.', { name: capital(name(one.reference)), bare: about(one.bare), away: about(one.away) }) }
  return { ...blank, kind: 'none', sentence: told('No mark lies on {name}, the nearest, {away} away.', { name: name(one.reference), away: about(Math.abs(one.away)) }) }
})
const capital = (text: string) => text[0]!.toUpperCase() + text.slice(1)

const lean = computed(() => {
  const [[ax, ay], [bx, by]] = [[0, 0], [1, 0]].map(([u, v]) => placed(props.placing, ...(put(bench.lay, [u!, v!]) as [number, number]))) as [[number, number], [number, number]]
  return (((Math.atan2(by - ay, bx - ax) * 180) / Math.PI) % 360 + 360) % 360
})
/** The side of the needle on which the ruler is, and how to get it out of the throat. */
const side = computed(() => {
  const [[ax], [bx]] = [[0, 0], [0, 1]].map(([u, v]) => placed(props.placing, ...(put(bench.lay, [u!, v!]) as [number, number]))) as [[number, number], [number, number]]
  if (Math.abs(bx - ax) < 0.2) return tr('level: turn the quilt a quarter')
  const lies = bx < ax ? 'left' : 'right'
  return lies === bench.view!.throat ? tr('{lies}: turn the quilt round', { lies: tr(lies) }) : tr('{lies}, out of the throat', { lies: tr(lies) })
})
const long = computed(() => lengthOf(bench.reading?.sewn ?? []))
const moves = computed(() => {
  const ruler = bench.edge!.edge.at(-2)! * 2
  return !bench.edge!.straight || long.value <= ruler ? 0 : Math.ceil((long.value - OVERLAP) / Math.max(ruler - OVERLAP, 1) - 1e-9) - 1
})
const rows = computed<Views['Row'][]>(() => {
  const row = (label: string, ...words: Words): Views['Row'] => ({ label: [label], words, typed: false })
  const others = held.value.filter((one) => one !== first.value && Math.abs(one.away) > SAME)
  const near = [others.find((one) => one.away > 0), others.find((one) => one.away < 0)].filter((one) => one !== undefined)
  return [
    ...near.map((one) => row(tr('From {name} {away}', { name: name(one.reference), away: one.away > 0 ? tr('behind') : tr('ahead') }), about(Math.abs(one.away)))),
    ...(long.value ? [row(tr('This line'), about(long.value), ...(moves.value ? [tr(', slide it along {moves} ×', { moves: moves.value })] : []))] : []),
    ...(crosses.value.length ? [row(tr('The edge crosses its seams'), ...crosses.value)] : []),
    row(tr('Angle'), `${Math.round((lean.value % 180) * 10) / 10}°`),
    row(tr('Ruler position'), side.value),
  ]
})
/** The distance from the needle at which the working edge crosses the seams at both ends. */
const crosses = computed<Words>(() => {
  const ends = (bench.reading?.stops ?? []).flatMap((stop) => (stop.along === null ? [] : [stop.along]))
  if (!ends.length) return []
  const alike = Math.abs(ends[0]! - ends.at(-1)!) < 0.1
  return alike ? told('{one} off', { one: about(ends[0]!) }) : told('{one} and {other} off', { one: { ...about(ends[0]!), unit: '' }, other: about(ends[1]!) })
})
const blocked = computed(() => (bench.edge!.needle.length ? bench.edge!.dead.length > 0 : true))
</script>

<template>
  <header>
    <div class="between"><h2>{{ tr('Ruler bench') }}</h2><router-link class="plain" :to="{ name: 'kit', params: { quilt: quilt.id } }" data-testid="to-tools">{{ tr('All tools') }}</router-link></div>
    <p class="quiet">{{ bench.view!.name }}<template v-if="bench.view!.times > 1"> · {{ bench.view!.where }}</template></p>
  </header>
  <p v-if="bench.view!.refused" class="card madder" role="alert">{{ bench.view!.refused }}</p>
  <div v-else class="between word"><span class="label">{{ tr('Ruler') }}</span><span class="quiet">{{ tr('your foot') }} <WordsText :words="bench.view!.foot_words" /></span></div>
  <div v-if="!bench.view!.refused" class="rulers" role="group" :aria-label="tr('Your rulers')">
    <template v-for="one in bench.view!.rulers" :key="one.key">
      <v-btn
        v-for="(edge, k) in one.fault ? [undefined] : one.edges" :key="k" class="chip" :disabled="!!one.fault" :title="one.fault" :aria-pressed="one.key === bench.ruler && k === bench.number"
        :data-testid="`bench-${one.key}${k ? `-${k}` : ''}`" @click="bench.pick(one.key, k)"
      >{{ one.name }}<small v-if="edge && one.edges.length > 1"><WordsText :words="edge.label" /></small><small v-if="one.fault">{{ tr('not safe with this foot') }}</small></v-btn>
    </template>
  </div>
  <template v-if="bench.edge">
    <div class="move"><slot /></div>
    <SumCard v-if="sum" :sum="sum" :heading="tr('Where the ruler lies')" />
    <p v-if="bench.fit" class="card fit" :class="{ 'fits': 'leaf', 'can be nudged': 'weld', 'will not do': 'madder' }[bench.fit.verdict]" data-testid="bench-fit"><b>{{ bench.fit.verdict }}</b>: <WordsText :words="bench.fit.words" /></p>
    <p v-if="runsAlong" class="quiet">{{ tr('The needle runs along {name}.', { name: name(runsAlong.reference) }) }}</p>
    <p v-if="blocked" class="card madder" role="status">{{ bench.edge.needle.length ? tr('Where the edge is red, the curve is too tight for your foot: the line stops short there.') : tr('This curve is too tight for your foot.') }}</p>
    <p v-if="!bench.reading?.sewn.length && bench.edge.needle.length" class="card tip" role="status">{{ tr('The needle’s path is outside this zone.') }}</p>
    <FigureRows :rows="rows" />
    <div class="act">
      <div v-if="zone.lines" class="lines">
        <v-btn class="chip" :aria-label="tr('The line before')" :title="tr('The line before (,)')" @click="bench.next(-1)">‹</v-btn>
        <button class="do" data-testid="lay-it" :title="tr('Place the ruler for this line (l)')" @click="bench.layWith()">{{ tr('Place the ruler for line {number}', { number: (bench.line?.number ?? 0) + 1 }) }}</button>
        <v-btn class="chip" :aria-label="tr('The next line')" :title="tr('The next line (space)')" data-testid="next-line" @click="bench.next(1)">›</v-btn>
      </div>
      <button class="keep" :disabled="!bench.reading?.sewn.length" data-testid="keep-line" :title="tr('Keep this line (k)')" @click="bench.keep()">{{ tr('Keep this line') }}</button>
    </div>
    <div v-if="bench.edge.straight && moves + Number(!bench.whole)" class="chips" role="group" :aria-label="tr('How far')">
      <v-btn class="chip" :aria-pressed="bench.whole" @click="bench.whole = true">{{ tr('From edge to edge') }}</v-btn>
      <v-btn class="chip" :aria-pressed="!bench.whole" data-testid="as-long" @click="bench.whole = false">{{ tr('As long as the ruler') }}</v-btn>
    </div>
    <p v-if="bench.wrong" class="wrong" role="alert" data-testid="bench-wrong">{{ bench.wrong.message }}</p>
  </template>
  <p v-else-if="!bench.view!.refused" class="card tip">{{ tr('None of your rulers suits your foot. Add one to your tools.') }}</p>
  <section v-if="bench.view!.hand.length" class="hand" :aria-label="tr('Lines placed by hand')">
    <p class="label">{{ tr('Lines placed by hand') }}</p>
    <div v-for="(one, k) in bench.view!.hand" :key="k" class="between"><span>{{ k + 1 }} · <WordsText :words="one.words" /></span><v-btn class="plain" :data-testid="`take-up-${k}`" @click="bench.takeUp(k)">{{ tr('Remove') }}</v-btn></div>
  </section>
  <CurveCard />
  <p class="quiet">{{ bench.view!.caution }}</p>
</template>

<style scoped>
.rulers { display: flex; flex-wrap: wrap; gap: 6px; max-height: 122px; overflow-y: auto; flex: none; margin-top: -8px; }
.word { min-height: 26px; }
.chip small { font-size: 13px; color: var(--soft); }
.lines { display: grid; grid-template-columns: 44px 1fr 44px; gap: 7px; }
.lines .chip { justify-content: center; min-height: 46px; border-radius: 10px; font-size: 18px; }
.do, .keep { min-height: 46px; border-radius: 10px; font-weight: 700; font-size: 16px; cursor: pointer; border: 1.5px solid var(--indigo); }
.do { background: var(--indigo-fill); color: #fff; }
.keep { background: var(--field); color: var(--indigo); }
.keep[disabled] { opacity: .5; cursor: default; }
.hand { display: grid; }
.act { display: grid; gap: 12px; }
@media (max-width: 900px) {
  /* on a tablet what is done comes before what is read: under the thumb, without scrolling */
  header, .word, .rulers { order: -3; }
  .move { order: -2; }
  .act { order: -1; grid-template-columns: 3fr 2fr; }
}
</style>
