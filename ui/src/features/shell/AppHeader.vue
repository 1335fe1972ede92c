<script setup lang="ts">
/** The quilt's name and size, whether it is saved, undo and redo, the unit. */
import { computed } from 'vue'
import WordsText from '../../parts/WordsText.vue'
import { useQuilt } from '../../state/quilt'

defineEmits<{ help: [] }>()
const quilt = useQuilt()
/** "lap" is a lap quilt; a runner is a runner. */
const use = computed(() => {
  const said = quilt.view?.use ?? ''
  return ['bed', 'lap', 'baby', 'wall'].includes(said) ? `${said} quilt` : said
})
const saved = computed(() => ({ saved: 'Saved', saving: 'Saving', waiting: 'Waiting to save' })[quilt.saving])
</script>

<template>
  <header>
    <router-link to="/" class="mark" aria-label="Kenzet: your quilts">Kenzet</router-link>
    <template v-if="quilt.view && $route.params.quilt">
      <h1 class="name">{{ quilt.view.name }}</h1>
      <span class="size"><WordsText :words="quilt.view.size" /> · {{ use }}</span>
      <span class="gap" />
      <span class="saved" role="status">{{ saved }}</span>
      <v-btn color="white" :disabled="!quilt.view.undo" :title="quilt.view.undo ? `Undo: ${quilt.view.undo} (z)` : 'Nothing to undo'" aria-label="Undo" data-testid="undo" @click="quilt.walk('undo')">↶<span class="word"> Undo</span></v-btn>
      <v-btn color="white" :disabled="!quilt.view.redo" :title="quilt.view.redo ? `Redo: ${quilt.view.redo} (Z)` : 'Nothing to redo'" aria-label="Redo" data-testid="redo" @click="quilt.walk('redo')">↷<span class="word"> Redo</span></v-btn>
      <div class="units" role="group" aria-label="Unit">
        <button v-for="unit in (['in', 'mm'] as const)" :key="unit" :aria-pressed="quilt.unit === unit" :data-testid="`unit-${unit}`" @click="quilt.readIn(unit)">{{ unit === 'in' ? 'in' : 'mm' }}<span v-if="unit === 'in'" class="word">ches</span></button>
      </div>
    </template>
    <span v-else class="gap" />
    <button class="ask" title="The guide for this page; ? shows all keys" data-testid="help" @click="$emit('help')">Help</button>
  </header>
</template>

<style scoped>
header { background: var(--indigo-fill); color: #fff; display: flex; align-items: center; gap: 12px; padding: 0 18px; }
.mark { font: 400 28px/1 var(--v-font-heading); color: #fff; text-decoration: none; }
.name { font: 400 17px/1.4 var(--v-font-body); color: #fff; margin-left: 8px; white-space: nowrap; }
.size { color: #c9d0e6; font-size: 14px; white-space: nowrap; }
.gap { flex: 1; }
.saved { color: #d9deee; font-size: 14px; min-width: 58px; text-align: right; }
.units { display: flex; border: 1px solid #aab4d6; border-radius: 8px; overflow: hidden; }
.units button { padding: 5px 13px; background: none; border: 0; color: #fff; cursor: pointer; font-size: 14px; }
.units button[aria-pressed='true'] { background: var(--field); color: var(--indigo); font-weight: 700; }
.ask { min-height: 36px; padding: 0 12px; border-radius: 8px; font-size: 14px; border: 1px solid #aab4d6; background: none; color: #fff; cursor: pointer; }
:focus-visible { outline-color: #fff; }
.name { min-width: 0; overflow: hidden; text-overflow: ellipsis; }
.word { white-space: pre; }
@media (max-width: 1100px) { .size { display: none; } }
@media (max-width: 600px) {
  header { gap: 4px; padding: 0 8px 0 12px; }
  .mark { font-size: 21px; }
  .name { font-size: 15px; margin-left: 4px; }
  .saved, .word { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); }
  header :deep(.v-btn) { min-width: 44px; padding: 0; font-size: 20px; }
  .units { flex: none; }
  .units button { padding: 9px 7px; font-size: 13px; }
  .units .word { display: none; }
  .ask { flex: none; min-height: 44px; padding: 0 8px; }
}
</style>
