<script setup lang="ts">
/** What this quilt is sewn with: copies of the quilter's tools and supplies, one of each kind, and every ruler at hand. */
import { ref } from 'vue'
import LengthField from '../../parts/LengthField.vue'
import WordsText from '../../parts/WordsText.vue'
import { useExports } from '../../state/exports'
import { useKit } from '../../state/kit'
import { useQuilt } from '../../state/quilt'
import { tr } from '../../texts'

const exports = useExports()
const kit = useKit()
const quilt = useQuilt()
const trouble = ref('')
const SEW = [['ruler foot', tr('ruler foot')], ['walking foot', tr('walking foot')]] as const
const error = (name: string) => (kit.wrong?.field === name ? kit.wrong.message : undefined)
const names = (list: string[]) => list.map((name) => `“${name}”`).join(', ')

async function file(event: Event) {
  const input = event.target as HTMLInputElement
  const chosen = input.files?.[0]
  if (chosen) trouble.value = await kit.bring(chosen)
  input.value = ''
}
</script>

<template>
  <section v-if="kit.view" class="stack">
    <header><div class="between"><h2>{{ tr('Your kit') }}</h2><router-link class="chip to-bench" :to="{ name: 'bench', params: { quilt: quilt.id } }" data-testid="to-bench">{{ tr('Ruler bench ›') }}</router-link></div><p class="quiet">{{ tr('Tools for this quilt. Click a tool to see or change it.') }}</p></header>
    <div v-if="kit.behind" class="card tip" role="status" data-testid="behind">
      <p>{{ tr('This quilt still uses your tools as they were when it was planned.') }}</p>
      <p v-if="kit.view.changed.length">{{ tr('Changed since: {names}.', { names: names(kit.view.changed) }) }}</p>
      <p v-if="kit.view.new.length">{{ tr('Added: {names}.', { names: names(kit.view.new) }) }}</p>
      <p v-if="kit.view.away.length">{{ tr('No longer available: {names}.', { names: names(kit.view.away) }) }}</p>
      <p class="quiet">{{ tr('Sewn lines stay as they are. Where old and new lines meet they may be slightly off.') }}</p>
      <v-btn class="chip" data-testid="take-over" @click="kit.takeOver()">{{ tr('Plan with today’s tools') }}</v-btn>
    </div>
    <p v-if="kit.refused" class="card madder" role="alert">{{ kit.refused }}</p>
    <p v-if="kit.view.fault" class="card madder" role="alert">{{ kit.view.fault }}</p>
    <fieldset>
      <legend class="label">{{ tr('Sewn with the') }}</legend>
      <div class="chips"><v-btn v-for="[key, label] in SEW" :key="key" class="chip" :aria-pressed="kit.view.sew_with === key" :data-testid="`sew-${key.replace(' ', '-')}`" @click="kit.change({ sew_with: key })">{{ label }}</v-btn></div>
    </fieldset>
    <template v-for="slot in kit.view.slots" :key="slot.slot">
      <fieldset v-if="slot.choices.length > 1 || slot.choices[0]?.key !== slot.key">
        <legend class="label">{{ slot.label }}</legend>
        <div class="chips"><v-btn v-for="choice in slot.choices" :key="choice.key" class="chip" :aria-pressed="slot.key === choice.key" :data-testid="`pick-${choice.key}`" @click="kit.change({ picks: { [slot.slot]: choice.key } })">{{ choice.label }}</v-btn></div>
      </fieldset>
    </template>
    <p class="card weld"><WordsText :words="kit.view.sentence" /></p>
    <p v-for="ruler in kit.view.rulers.filter((one) => one.fault)" :key="ruler.key" class="card madder" role="alert">{{ ruler.fault }}</p>
    <div class="two">
      <template v-for="f in kit.view.fields" :key="f.name + quilt.taken">
        <LengthField v-if="f.control === 'length'" :field="f" :error="error(f.name)" :unit="quilt.unit" @typed="kit.change({ values: { [f.name]: $event } })" />
        <label v-else class="own"><span class="label">{{ f.label }}</span><input class="text" :value="f.text" maxlength="40" :placeholder="f.empty" :aria-invalid="!!error(f.name)" :data-testid="`field-${f.name}`" @change="kit.change({ values: { [f.name]: ($event.target as HTMLInputElement).value.trim() } })"><span v-if="error(f.name)" class="wrong" role="alert">{{ error(f.name) }}</span><span v-else class="quiet">{{ f.help }}</span></label>
      </template>
    </div>
    <p class="quiet">{{ tr('A thin ruler can slip under the foot and break the needle. Use the ruler thickness that your foot’s and machine’s manuals ask for.') }}</p>
    <div class="chips files">
      <a class="plain" :href="exports.href('kit-json')" data-testid="kit-json">{{ exports.label('kit-json') }}</a>
      <a class="plain" :href="exports.href('kit-csv')" data-testid="kit-csv">{{ exports.label('kit-csv') }}</a>
      <label class="plain">{{ tr('Import tools …') }}<input type="file" accept=".json,.csv" class="sr" data-testid="bring-things" @change="file" /></label>
    </div>
    <p v-if="trouble" class="wrong" role="alert">{{ trouble }}</p>
  </section>
</template>

<style scoped>
.to-bench { text-decoration: none; color: var(--indigo); border-color: var(--indigo); font-weight: 700; }
fieldset { border: 0; padding: 0; margin: 0; }
legend { padding: 0; margin-bottom: 5px; }
.two { display: grid; grid-template-columns: 1fr 1fr; gap: 12px; align-items: start; }
.own { display: grid; gap: 5px; }
.own .text { height: 38px; width: 100%; }
.files { gap: 4px 14px; }
</style>
