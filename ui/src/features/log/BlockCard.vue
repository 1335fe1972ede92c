<script setup lang="ts">
/** One block: its progress, what happened there, remarks and pictures, and another block's log for comparison. */
import { computed, ref } from 'vue'
import FigureRows from '../../parts/FigureRows.vue'
import WordsText from '../../parts/WordsText.vue'
import { useLog } from '../../state/log'
import { useSwatches } from '../../state/swatches'
import NextCard from './NextCard.vue'
import RemarkCard from './RemarkCard.vue'
import TapeCard from './TapeCard.vue'
import ThereList from './ThereList.vue'
import { tr } from '../../texts'

const log = useLog()
const book = useSwatches()
const beside = ref('')
const others = computed(() => (log.view?.blocks ?? []).filter((one) => one.place !== log.place))
const other = computed(() => others.value.find((one) => one.place === beside.value))
const label = (row: { label: unknown[] }) => String(row.label[0])
const compared = computed(() => {
  if (!other.value || !log.block) return []
  const labels = [...new Set([...log.block.rows, ...other.value.rows].map(label))]
  return labels.map((name) => ({ name, mine: log.block!.rows.find((row) => label(row) === name)?.words ?? [], its: other.value!.rows.find((row) => label(row) === name)?.words ?? [] }))
})
async function photo(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (file) await log.addPhoto(file)
}
</script>

<template>
  <section v-if="log.row" class="stack" data-testid="log-block">
    <div class="between"><h3>{{ log.row.name }}</h3><v-btn class="plain" data-testid="log-unchoose" @click="log.choose(log.place)">{{ tr('Whole quilt') }}</v-btn></div>
    <p class="quiet">{{ log.row.words }}<template v-if="log.block">{{ tr(', last on {when}', { when: log.block.when }) }}</template><template v-if="log.row.left">{{ tr('; {left} to sew', { left: log.row.left }) }}</template></p>
    <template v-if="log.taken">
      <p>{{ tr('Drag the four corners onto the block’s corners in the picture.') }}</p>
      <div class="chips">
        <v-btn color="primary" variant="flat" :loading="log.busy === 'measure'" data-testid="measure" @click="log.measure(false)">{{ tr('Measure') }}</v-btn>
        <v-btn class="chip" :disabled="!!log.busy" :title="tr('Printed cards at the four corners, found automatically')" data-testid="by-cards" @click="log.measure(true)">{{ tr('Find corner cards') }}</v-btn>
        <v-btn class="plain" @click="log.closePicture()">{{ tr('Cancel') }}</v-btn>
      </div>
    </template>
    <template v-else>
      <p v-if="!log.row.whole" class="quiet">{{ tr('Blocks with four corners can be measured from a photo; this one is judged by eye.') }}</p>
      <label v-else class="inspect" :class="{ busy: log.busy === 'photo' }"><b>{{ log.busy === 'photo' ? tr('Reading the picture …') : tr('Measure from a photo') }}</b><span>{{ tr('Taken from straight above, one light from the side') }}</span><input type="file" accept="image/jpeg,image/png" class="sr" data-testid="inspect-photo" @change="photo" /></label>
      <ul v-if="log.pictures.length" class="pictures"><li v-for="one in log.pictures" :key="one.id"><v-btn class="plain" data-testid="show-inspection" @click="log.show(one.id)">{{ tr('Measured {when}', { when: one.when }) }}</v-btn></li></ul>
    </template>
    <p v-if="log.wrong && ['photo', 'measure', 'corners', 'file', 'place'].includes(log.wrong.field)" class="card madder" role="alert">{{ log.wrong.message }}</p>
    <RemarkCard :about="log.about" verdicts />
    <TapeCard :key="log.place" />
    <template v-if="log.block">
      <h3>{{ tr('What happened here') }}</h3>
      <FigureRows :rows="log.block.rows" />
      <ul v-if="log.block.mishaps.length" class="mishaps"><li v-for="(one, k) in log.block.mishaps" :key="k">{{ one.words }}</li></ul>
      <ThereList :there="log.block.there" />
      <NextCard />
      <v-btn class="chip swatch" data-testid="to-swatches" @click="book.show(log.block.there[0]?.zone)">{{ tr('Add its fill to the swatch book …') }}</v-btn>
      <label v-if="others.length" class="beside">{{ tr('Beside') }} <select v-model="beside" data-testid="beside"><option value="">{{ tr('no other block') }}</option><option v-for="one in others" :key="one.place" :value="one.place">{{ one.name }}</option></select></label>
      <table v-if="other"><thead><tr><td /><th>{{ log.row.name }}</th><th>{{ other.name }}</th></tr></thead><tbody><tr v-for="one in compared" :key="one.name"><td>{{ one.name }}</td><td><WordsText :words="one.mine" /></td><td><WordsText :words="one.its" /></td></tr></tbody></table>
    </template>
    <p v-else class="quiet">{{ tr('Nothing is sewn here yet.') }}</p>
  </section>
</template>

<style scoped>
.inspect { display: grid; gap: 1px; padding: 8px 14px; border: 1px solid var(--indigo); border-radius: 10px; background: var(--indigo-wash); cursor: pointer; font-size: 14px; }
.inspect b { color: var(--indigo); }
.inspect span { color: var(--soft); font-size: 13px; }
.inspect:focus-within { outline: 2px solid var(--madder); outline-offset: 2px; }
.pictures, .mishaps { list-style: none; margin: 0; padding: 0; font-size: 14px; }
.mishaps li { color: var(--madder); }
.swatch { justify-self: start; }
.beside { font-size: 14px; }
select { max-width: 230px; border: 1px solid var(--rule); border-radius: 8px; padding: 4px 6px; background: var(--field); color: inherit; font: inherit; }
table { border-collapse: collapse; font-size: 13px; width: 100%; }
th { text-align: left; font-weight: 400; color: var(--soft); padding: 0 6px 4px 0; }
td { border-top: 1px solid var(--rule); padding: 4px 6px 4px 0; }
</style>
