<script setup lang="ts">
/** The report on a measured block: whether to keep it, what shows, what to sew again, planned beside actual. */
import { computed } from 'vue'
import FigureRows from '../../parts/FigureRows.vue'
import FoldCard from '../../parts/FoldCard.vue'
import WordsText from '../../parts/WordsText.vue'
import { useLog } from '../../state/log'
import { counted, tr } from '../../texts'

const props = defineProps<{ chosen: string }>()
const emit = defineEmits<{ choose: [key: string] }>()
const log = useLog()
const view = computed(() => log.inspection!)
const side = computed(() => view.value.sides.find((one) => one.key === props.chosen))
const NUDGE = 0.5 // mm
</script>

<template>
  <div class="stack">
    <div class="between"><h2>{{ tr('Measured') }}</h2><v-btn class="plain" data-testid="close-inspection" @click="log.closePicture()">{{ tr('Back to the log') }}</v-btn></div>
    <p class="quiet">{{ view.name }} · {{ view.when }}</p>
    <div class="card" :class="view.verdict === 'keep' ? 'leaf' : 'weld'" data-testid="inspect-says"><p><b>{{ view.says }}</b> <template v-for="(words, k) in view.sentences" :key="k"><WordsText :words="words" />{{ ' ' }}</template></p></div>
    <div v-if="side" class="card tip" data-testid="inspect-side">
      <p><WordsText :words="side.words" /><template v-if="side.note"> ({{ side.note }})</template></p>
      <div class="chips">
        <v-btn class="chip" :disabled="!!log.busy" @click="log.changeSide(side.key, { nudged: side.offset + NUDGE })">{{ tr('Nudge {toward}', { toward: side.toward }) }}</v-btn>
        <v-btn class="chip" :disabled="!!log.busy" @click="log.changeSide(side.key, { nudged: side.offset - NUDGE })">{{ tr('Nudge {back}', { back: side.back }) }}</v-btn>
        <v-btn v-if="side.struck || side.nudged" class="chip" data-testid="side-back" @click="log.changeSide(side.key, { back: true })">{{ tr('As it was found') }}</v-btn>
        <v-btn v-else class="chip" data-testid="side-strike" @click="log.changeSide(side.key, {})">{{ tr('Strike out') }}</v-btn>
      </div>
    </div>
    <p v-else class="quiet">{{ tr('Click a line in the picture to see its figures, to nudge it or to strike it out.') }}</p>
    <p v-if="log.wrong" class="wrong" role="alert">{{ log.wrong.message }}</p>
    <template v-if="view.repair.length">
      <h3>{{ tr('To sew again') }}</h3>
      <ol class="lines"><li v-for="one in view.repair" :key="one.key"><button @click="emit('choose', one.key)"><WordsText :words="one.words" /><small>{{ one.note }}</small></button></li></ol>
      <p class="quiet">{{ tr('Unpick with the work flat and the blade away from your hand.') }}</p>
    </template>
    <template v-if="view.worst.length">
      <h3>{{ tr('What shows most') }}</h3>
      <ol class="lines"><li v-for="one in view.worst" :key="one.key"><button data-testid="inspect-worst" @click="emit('choose', one.key)"><WordsText :words="one.words" /><small>{{ one.note }}</small></button></li></ol>
    </template>
    <div class="settings">
      <FoldCard name="inspect-sets" :title="tr('Planned and sewn')" :says="[counted(view.sets.length, '{count} set', '{count} sets')]" open>
        <table data-testid="inspect-sets">
          <thead><tr><th>{{ tr('Set') }}</th><th>{{ tr('Spacing') }}</th><th>{{ tr('Sewn') }}</th><th>{{ tr('Worst gap') }}</th><th>{{ tr('Drift') }}</th></tr></thead>
          <tbody><tr v-for="(one, k) in view.sets" :key="k"><td>{{ one.name }}<small>{{ tr('{lines} seen', { lines: one.lines }) }}</small></td><td><WordsText :words="one.planned" /></td><td><WordsText :words="one.actual" /></td><td><WordsText :words="one.worst" /></td><td><WordsText :words="one.drift" /></td></tr></tbody>
        </table>
      </FoldCard>
      <FoldCard v-if="view.missed.length" name="inspect-points" :title="tr('Points missed')" :says="[String(view.missed.length)]">
        <ul class="lines"><li v-for="(one, k) in view.missed" :key="k"><WordsText :words="one.words" /><small>{{ one.note }}</small></li></ul>
      </FoldCard>
      <FoldCard name="inspect-gaps" :title="tr('Widest gaps as sewn')" :says="view.gaps[0]?.words ?? []"><FigureRows :rows="view.gaps" /></FoldCard>
    </div>
    <v-btn class="plain strike" data-testid="strike-picture" @click="log.strikePicture(view.id)">{{ tr('Strike out this whole picture') }}</v-btn>
  </div>
</template>

<style scoped>
.card p { margin: 0; }
.card .chips { margin-top: 6px; }
.lines { margin: 0; padding-left: 20px; display: grid; gap: 6px; font-size: 14px; }
ul.lines { list-style: none; padding: 0; }
.lines li { vertical-align: top; }
.lines button { display: block; border: 0; background: none; padding: 0; color: inherit; font: inherit; text-align: left; cursor: pointer; }
.lines button:hover { text-decoration: underline; }
small { display: block; color: var(--soft); font-size: 13px; }
table { border-collapse: collapse; font-size: 13px; width: 100%; }
th { text-align: left; font-weight: 400; color: var(--soft); padding: 0 6px 4px 0; }
td { border-top: 1px solid var(--rule); padding: 4px 6px 4px 0; vertical-align: top; }
.settings { display: flex; flex-direction: column; gap: 12px; }
.strike { justify-self: start; }
</style>
