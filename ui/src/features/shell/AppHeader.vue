<script setup lang="ts">
/** The quilt's name and size, whether it is saved, undo and redo, the unit. */
import { computed } from 'vue'
import WordsText from '../../parts/WordsText.vue'
import { useQuilt } from '../../state/quilt'
import { tr } from '../../texts'

defineEmits<{ help: [] }>()
const quilt = useQuilt()
/** "lap" is a lap quilt; a runner is a runner. */
const use = computed(() => {
  const said = quilt.view?.use ?? ''
  return ['bed', 'lap', 'baby', 'wall'].includes(said) ? tr('{use} quilt', { use: tr(said) }) : tr(said)
})
const saved = computed(() => ({ saved: tr('Saved'), saving: tr('Saving'), waiting: tr('Waiting to save') })[quilt.saving])
</script>

<template>
  <header>
    <router-link to="/" class="mark" :class="{ beside: $route.params.quilt }" :aria-label="tr('Kenzet: your quilts')">Kenzet</router-link>
    <template v-if="quilt.view && $route.params.quilt">
      <h1 class="name">{{ quilt.view.name }}</h1>
      <span class="size"><WordsText :words="quilt.view.size" /> · {{ use }}</span>
      <span class="gap" />
      <span class="saved" role="status">{{ saved }}</span>
      <v-btn color="white" :disabled="!quilt.view.undo" :title="quilt.view.undo ? tr('Undo: {undo} (z)', { undo: quilt.view.undo }) : tr('Nothing to undo')" :aria-label="tr('Undo')" data-testid="undo" @click="quilt.walk('undo')">↶<span class="word">{{ ' ' + tr('Undo') }}</span></v-btn>
      <v-btn color="white" :disabled="!quilt.view.redo" :title="quilt.view.redo ? tr('Redo: {redo} (Z)', { redo: quilt.view.redo }) : tr('Nothing to redo')" :aria-label="tr('Redo')" data-testid="redo" @click="quilt.walk('redo')">↷<span class="word">{{ ' ' + tr('Redo') }}</span></v-btn>
      <div class="units" role="group" :aria-label="tr('Unit')">
        <button v-for="unit in (['in', 'mm'] as const)" :key="unit" :aria-pressed="quilt.unit === unit" :data-testid="`unit-${unit}`" @click="quilt.readIn(unit)"><template v-if="unit === 'in'"><span class="word">{{ tr('inches') }}</span><span class="short">in</span></template><template v-else>{{ unit }}</template></button>
      </div>
    </template>
    <span v-else class="gap" />
    <button class="ask" :title="tr('The guide for this page; ? shows all keys')" data-testid="help" @click="$emit('help')">{{ tr('Help') }}</button>
  </header>
</template>

<style scoped>
header { background: var(--indigo-fill); color: #fff; display: flex; align-items: center; gap: 12px; padding: 0 18px; }
.mark { font: 400 28px/1 var(--v-font-heading); color: #fff; text-decoration: none; }
.name { font: 400 17px/1.4 var(--v-font-body); color: #fff; margin-left: 8px; white-space: nowrap; }
.size { color: #c9d0e6; font-size: 14px; white-space: nowrap; }
.gap { flex: 1; }
.saved { color: #d9deee; font-size: 14px; min-width: 58px; text-align: right; white-space: nowrap; overflow: hidden; text-overflow: ellipsis; }
.units { flex: none; display: flex; border: 1px solid #aab4d6; border-radius: 8px; overflow: hidden; }
.units button { padding: 5px 13px; background: none; border: 0; color: #fff; cursor: pointer; font-size: 14px; }
.units button[aria-pressed='true'] { background: var(--field); color: var(--indigo); font-weight: 700; }
header :deep(.v-btn), .ask { flex: none; }
.ask { min-height: 36px; padding: 0 12px; border-radius: 8px; font-size: 14px; border: 1px solid #aab4d6; background: none; color: #fff; cursor: pointer; }
:focus-visible { outline-color: #fff; }
.name { min-width: 0; overflow: hidden; text-overflow: ellipsis; }
.word { white-space: pre; }
.short { display: none; }
@media (max-width: 1100px) { .size { display: none; } }
@media (max-width: 600px) {
  header { gap: 4px; padding: 0 8px 0 6px; }
  .mark { font-size: 21px; }
  .mark.beside { min-width: 36px; text-align: center; font-size: 0; line-height: 52px; } /* its first letter: the quilt's name needs the room */
  .mark.beside::first-letter { font-size: 27px; }
  .name { font-size: 15px; margin-left: 4px; }
  .saved, .word { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); }
  header :deep(.v-btn) { min-width: 44px; padding: 0; font-size: 20px; }
  .units button { padding: 9px 7px; font-size: 13px; }
  .units .word { display: none; }
  .units .short { display: inline; }
  .ask { min-height: 44px; padding: 0 8px; }
}
</style>
