<script setup lang="ts">
/** Proposed plans side by side: how each would look, its effect, its figures. */
import { onMounted, ref } from 'vue'
import FigureRows from '../../parts/FigureRows.vue'
import WordsText from '../../parts/WordsText.vue'
import { useProposals, type Card, type Move, type Skill } from '../../state/proposals'
import { useQuilt } from '../../state/quilt'
import { tr } from '../../texts'

const SKILLS: [Skill, string][] = [['straight', tr('straight lines')], ['curves', tr('curves along a ruler')], ['freehand', tr('freehand')]]
const MOVES: [Move, string][] = [['another', tr('Another like this')], ['quicker', tr('Quicker')], ['softer', tr('Softer')], ['contrast', tr('More contrast')]]
const quilt = useQuilt()
const plans = useProposals()
const heading = ref<HTMLElement>()
const picture = (card: Card) => `/api/quilts/${quilt.id}/proposals/${card.view.key}/relief.jpg`
function turn(skill: Skill) {
  const has = plans.skills.includes(skill)
  const left = has ? plans.skills.filter((one) => one !== skill) : [...plans.skills, skill]
  if (left.length) plans.skills = left
}
onMounted(() => heading.value?.focus())
</script>

<template>
  <section class="board" :aria-label="tr('Whole plans')" data-testid="proposals" @keydown.esc.stop="plans.close()">
    <header>
      <h2 ref="heading" tabindex="-1">{{ tr('What could you quilt?') }}</h2>
      <v-btn class="chip" data-testid="proposals-close" @click="plans.close()">{{ tr('Back to the quilt') }}</v-btn>
    </header>
    <form class="wish" @submit.prevent="plans.all()">
      <fieldset>
        <legend>{{ tr('Fill') }}</legend>
        <v-btn class="chip" :aria-pressed="plans.scope === 'open'" :disabled="!plans.some" data-testid="scope-open" @click="plans.scope = 'open'">{{ tr('zones without a fill') }}</v-btn>
        <v-btn class="chip" :aria-pressed="plans.scope === 'all'" data-testid="scope-all" @click="plans.scope = 'all'">{{ tr('all zones') }}</v-btn>
        <v-btn class="chip" :aria-pressed="plans.scope === 'some'" data-testid="scope-some" @click="plans.scope = 'some'">{{ tr('zones that I pick') }}</v-btn>
      </fieldset>
      <fieldset>
        <legend>{{ tr('You sew') }}</legend>
        <v-btn v-for="[key, label] in SKILLS" :key="key" class="chip" :aria-pressed="plans.skills.includes(key)" :data-testid="`skill-${key}`" @click="turn(key)">{{ label }}</v-btn>
      </fieldset>
      <label>{{ tr('Hours, at most') }} <input v-model="plans.hours" inputmode="decimal" :placeholder="tr('any')" :aria-invalid="plans.field === 'hours'" data-testid="hours"></label>
      <label>{{ tr('Kinds, at most') }} <input v-model.number="plans.kinds" type="number" min="1" max="12" :aria-invalid="plans.field === 'kinds'" data-testid="kinds"></label>
      <v-btn class="go" color="primary" variant="flat" type="submit" :disabled="!!plans.looking" data-testid="propose">{{ plans.cards.length ? tr('Propose again') : tr('Propose plans') }}</v-btn>
    </form>
    <fieldset v-if="plans.scope === 'some'" class="picks">
      <legend>{{ tr('These zones get a fill, the others stay as they are') }}</legend>
      <label v-for="one in plans.zones" :key="one.key"><input v-model="plans.picked" type="checkbox" :value="one.key" :data-testid="`pick-${one.key}`"> {{ one.name }}</label>
    </fieldset>
    <p v-if="plans.trouble" class="card madder" role="alert" data-testid="proposals-trouble">{{ plans.trouble }}</p>
    <p v-if="plans.looking" role="status" class="looking">{{ plans.looking }} <v-btn class="plain" @click="plans.stop()">{{ tr('Stop') }}</v-btn></p>
    <p v-if="!plans.cards.length && !plans.looking && !plans.trouble" class="quiet">{{ tr('Each plan gives every zone a fill that suits it, with what you own. Nothing changes until you use a plan; undo takes it back.') }}</p>
    <ol class="cards">
      <li v-for="card in plans.cards" :key="card.view.key" :data-testid="`plan-${card.view.aim}`">
        <img :src="picture(card)" :alt="tr('{name} quilted this way: {sentence}', { name: quilt.view?.name, sentence: card.view.sentence })">
        <div class="what">
          <h3>{{ card.view.title }}<small v-if="card.from">{{ ' ' + card.from }}</small></h3>
          <p>{{ card.view.sentence }}</p>
          <FigureRows :rows="[...(card.figures ?? [{ label: [tr('Sewing time')], words: [tr('finding a route …')], typed: false }]), ...card.view.rows]" />
        </div>
        <details><summary>{{ tr('Its fills') }}</summary><ul><li v-for="one in card.view.zones" :key="one.zone"><b>{{ one.name }}</b> <WordsText :words="one.words" /></li></ul></details>
        <div class="chips">
          <v-btn class="chip take" data-testid="take-plan" @click="plans.take(card)">{{ tr('Use this plan') }}</v-btn>
          <v-btn v-for="[move, label] in MOVES" :key="move" class="plain" :disabled="!!plans.looking" :data-testid="`move-${move}`" @click="plans.next(card, move)">{{ label }}</v-btn>
        </div>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.board { position: absolute; inset: 0; background: var(--muslin); overflow-y: auto; padding: 14px 18px; display: flex; flex-direction: column; gap: 12px; z-index: 5; }
header { display: flex; justify-content: space-between; align-items: center; gap: 12px; }
h2:focus-visible { outline: none; }
.wish { display: flex; flex-wrap: wrap; gap: 10px 20px; align-items: end; }
fieldset { border: 0; padding: 0; margin: 0; display: flex; flex-wrap: wrap; gap: 6px; }
legend, label { font-size: 13px; color: var(--soft); }
label { display: grid; gap: 2px; }
.picks { gap: 2px 16px; }
.picks label { display: flex; align-items: center; gap: 6px; min-height: 32px; color: var(--ink); font-size: 14px; cursor: pointer; }
.wish input { width: 72px; min-height: 36px; border: 1px solid var(--rule); border-radius: 8px; padding: 4px 8px; background: var(--field); color: var(--ink); font: inherit; }
.wish input[aria-invalid='true'] { border-color: var(--madder); border-width: 2px; }
.go { min-height: 40px; }
.looking { font-size: 14px; }
.cards { list-style: none; margin: 0; padding: 0; display: grid; grid-template-columns: repeat(auto-fill, minmax(min(100%, 350px), 1fr)); gap: 12px; }
.cards > li { display: grid; grid-template-columns: minmax(0, 5fr) minmax(0, 6fr); gap: 12px; border: 1px solid var(--rule); border-radius: 12px; background: var(--paper); padding: 12px; }
img { width: 100%; border-radius: 6px; align-self: start; }
.what { display: grid; gap: 6px; align-content: start; font-size: 14px; min-width: 0; }
h3 { font-size: 16px; color: var(--indigo); }
h3 small { font-weight: 400; color: var(--soft); font-size: 13px; }
summary { cursor: pointer; color: var(--indigo); min-height: 24px; }
details, .chips { grid-column: 1 / -1; font-size: 14px; }
details ul { margin: 4px 0 0; padding: 0; list-style: none; }
.chips { align-items: center; gap: 4px 12px; }
.take { border-color: var(--indigo); font-weight: 700; }
</style>
