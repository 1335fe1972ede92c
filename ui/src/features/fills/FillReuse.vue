<script setup lang="ts">
/** A fill as a whole: compare it with others, copy it to another zone, save it as a recipe. */
import { computed, ref } from 'vue'
import { useQuilt } from '../../state/quilt'
import { useRecipes } from '../../state/recipes'
import { useVariants } from '../../state/variants'
import { useZone } from '../../state/zone'
import RecipesCard from './RecipesCard.vue'
import { counted, tr } from '../../texts'

const quilt = useQuilt()
const zone = useZone()
const variants = useVariants()
const recipes = useRecipes()
const chosen = computed(() => quilt.view?.fills.find((fill) => fill.kind === zone.plan?.fill?.kind))
const book = ref(false)
function copy() {
  if (chosen.value && zone.plan?.fill) recipes.held = { fill: zone.plan.fill, label: chosen.value.label, from: zone.key }
}
</script>

<template>
  <div class="reuse">
    <div class="more">
      <template v-if="zone.plan?.fill && !zone.layer">
        <v-btn v-if="!variants.isPinned" class="plain" data-testid="pin" @click="variants.pin(zone.plan!.fill!)">{{ tr('Keep as variant') }}</v-btn>
        <v-btn v-if="variants.pins.length" class="plain" data-testid="compare" @click="variants.show('pins')">{{ counted(variants.pins.length, '{count} variant: compare', '{count} variants: compare') }}</v-btn>
      </template>
      <v-btn v-if="chosen" class="plain" data-testid="copy" @click="copy()">{{ tr('Copy') }}</v-btn>
      <v-btn v-if="recipes.held && recipes.held.from !== zone.key" class="plain" data-testid="paste" @click="zone.setWhole(recipes.held.fill)">{{ tr('Paste {label}', { label: recipes.held.label }) }}</v-btn>
      <v-btn class="plain" :aria-expanded="book" data-testid="recipes" @click="book = !book">{{ tr('Recipes …') }}</v-btn>
    </div>
    <RecipesCard v-if="book" />
  </div>
</template>

<style scoped>
.reuse { display: grid; gap: 9px; }
.more { display: flex; flex-wrap: wrap; gap: 2px 12px; }
</style>
