<script setup lang="ts">
/** Recipes: save the present settings under a name, use saved ones here, carry them as a file. */
import { computed, onMounted, ref } from 'vue'
import { useExports } from '../../state/exports'
import { useRecipes } from '../../state/recipes'
import { useZone } from '../../state/zone'
import { tr } from '../../texts'

const zone = useZone()
const recipes = useRecipes()
const exports = useExports()
const name = ref('')
const taken = computed(() => recipes.list?.some((one) => one.name === name.value.trim()))

async function keep() {
  if (!zone.plan?.fill || !name.value.trim()) return
  if (await recipes.keep(name.value.trim(), zone.plan.fill)) name.value = ''
}
function bring(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (file) void recipes.bring(file)
}
onMounted(() => void recipes.load())
</script>

<template>
  <section class="recipes" :aria-label="tr('Recipes')" data-testid="recipes-card">
    <form v-if="zone.plan?.fill" class="keep" @submit.prevent="keep">
      <input v-model="name" class="text" maxlength="80" :placeholder="tr('Save this fill as …')" :aria-label="tr('Name of the recipe')" data-testid="recipe-name" />
      <v-btn class="chip" type="submit" :disabled="!name.trim()" data-testid="recipe-keep">{{ taken ? tr('Replace') : tr('Keep') }}</v-btn>
    </form>
    <p v-if="recipes.trouble" class="wrong" role="alert">{{ recipes.trouble }}</p>
    <p v-if="recipes.list && !recipes.list.length" class="quiet">{{ tr('No recipes yet. A fill that you save here can be used in any zone of any quilt.') }}</p>
    <ul>
      <li v-for="one in recipes.list" :key="one.name">
        <button class="lay" :title="tr('Use {name} in this zone', { name: one.name })" @click="zone.setWhole(one.fill)">
          <svg viewBox="0 0 72 39" preserveAspectRatio="xMidYMid slice" aria-hidden="true"><path :d="one.tile" /></svg>
          <b>{{ one.name }}</b><span class="quiet">{{ one.label }}, {{ one.spacing }}</span>
        </button>
        <v-btn class="chip" :aria-label="tr('Delete {name}', { name: one.name })" @click="recipes.forget(one.name)">×</v-btn>
      </li>
    </ul>
    <p class="files">
      <a v-if="recipes.list?.length" class="plain" :href="exports.href('recipes-json')" data-testid="recipes-file">{{ exports.label('recipes-json') }}</a>
      <label class="plain">{{ tr('Import a file') }}<input type="file" accept=".json,application/json" class="sr" data-testid="recipes-bring" @change="bring" /></label>
    </p>
  </section>
</template>

<style scoped>
.recipes { display: grid; gap: 8px; border: 1px solid var(--rule); border-radius: 10px; background: var(--field); padding: 10px; }
.keep { display: flex; gap: 8px; }
.keep .text { flex: 1; }
ul { list-style: none; display: grid; gap: 6px; }
li { display: flex; gap: 6px; align-items: center; }
.lay { flex: 1; display: grid; grid-template-columns: 52px auto 1fr; gap: 8px; align-items: center; text-align: left; background: none; border: 1px solid var(--rule); border-radius: 8px; padding: 3px 8px 3px 3px; cursor: pointer; min-width: 0; }
.lay:hover { border-color: var(--indigo); }
.lay .quiet { font-size: 13px; text-align: right; }
.lay svg { width: 52px; height: 28px; background: #efe9dc; border-radius: 5px; }
path { fill: none; stroke: #2b3a67; stroke-width: 1.8; stroke-dasharray: 4 1.6; }
.files { display: flex; gap: 14px; }
.files label { cursor: pointer; }
</style>
