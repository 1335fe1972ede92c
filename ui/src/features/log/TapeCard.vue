<script setup lang="ts">
/** A block measured with a tape: the number of lines, the distance from first to last, the widest gap; and earlier readings. */
import { computed, nextTick, ref, watch } from 'vue'
import FoldCard from '../../parts/FoldCard.vue'
import WordsText from '../../parts/WordsText.vue'
import { useLog } from '../../state/log'
import { useQuilt } from '../../state/quilt'
import { tr } from '../../texts'

const FIELDS = ['zone', 'lines', 'span', 'gap', 'tape']
const log = useLog()
const quilt = useQuilt()
const zone = ref('')
const lines = ref('')
const span = ref('')
const gap = ref('')
const zones = computed(() => quilt.zones.filter((one) => one.drawings.some((drawing) => drawing.places.includes(log.place))))
watch(zones, (now) => { if (!now.some((one) => one.key === zone.value)) zone.value = now[0]?.key ?? '' }, { immediate: true })
const mine = computed(() => (log.view?.taped ?? []).filter((one) => one.place === log.place))
const wrong = computed(() => (log.wrong && FIELDS.includes(log.wrong.field) ? log.wrong : undefined))
const end = ref<HTMLElement>()
const comesIntoView = () => nextTick(() => end.value?.scrollIntoView?.({ block: 'nearest' }))
async function keep() {
  if (await log.tape(zone.value, Number(lines.value) || 0, span.value, gap.value)) lines.value = span.value = gap.value = ''
  void comesIntoView()
}
</script>

<template>
  <FoldCard v-if="zones.length" name="log-tape" :title="tr('Measured by hand')" :says="[mine.length ? tr('{mine} kept', { mine: mine.length }) : tr('with a tape measure')]">
    <form class="tape" @submit.prevent="keep()">
      <label>{{ tr('Lines of') }} <select v-model="zone" data-testid="tape-zone"><option v-for="one in zones" :key="one.key" :value="one.key">{{ one.name }}</option></select></label>
      <label>{{ tr('Lines counted') }} <input v-model="lines" class="text" inputmode="numeric" :aria-invalid="wrong?.field === 'lines'" data-testid="tape-lines"></label>
      <label>{{ tr('First to last') }} <input v-model="span" class="text" :placeholder="quilt.unit" :aria-invalid="wrong?.field === 'span'" data-testid="tape-span"></label>
      <label>{{ tr('Widest gap') }} <input v-model="gap" class="text" :placeholder="tr('if you like')" :aria-invalid="wrong?.field === 'gap'" data-testid="tape-gap"></label>
      <v-btn class="chip" type="submit" :disabled="!lines.trim() || !span.trim() || !!log.busy" data-testid="tape-keep">{{ tr('Keep') }}</v-btn>
    </form>
    <p v-if="wrong" ref="end" class="wrong" role="alert">{{ wrong.message }}</p>
    <ul v-if="mine.length">
      <li v-for="(one, k) in mine" :key="one.id" :ref="(li) => { if (!k && !wrong) end = li as HTMLElement }" :class="one.truth" data-testid="taped">
        <b>{{ one.name }}</b> <WordsText :words="one.words" />
        <small>{{ one.when }} <v-btn class="plain" :aria-label="tr('Strike out this measurement')" @click="log.strike(one.id)">{{ tr('Strike out') }}</v-btn></small>
      </li>
    </ul>
  </FoldCard>
</template>

<style scoped>
.tape { display: grid; grid-template-columns: 1fr 1fr; gap: 8px 10px; align-items: end; }
label { display: grid; gap: 2px; font-size: 13px; color: var(--soft); }
label:first-child { grid-column: 1 / -1; }
.text { width: 100%; }
select { min-height: 36px; border: 1px solid var(--rule); border-radius: 8px; padding: 4px 8px; background: var(--field); color: var(--ink); font: inherit; font-size: 14px; }
ul { list-style: none; margin: 0; padding: 0; display: grid; gap: 8px; font-size: 14px; }
li { border-left: 3px solid var(--leaf); padding-left: 10px; }
li.out { border-left-color: var(--madder); }
small { display: block; color: var(--soft); font-size: 13px; }
</style>
