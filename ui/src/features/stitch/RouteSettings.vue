<script setup lang="ts">
/** Settings of the route through a block: where it begins and ends, and seams to avoid. */
import type { Views } from '../../api/client'
import ExitCard from './ExitCard.vue'
import { tr } from '../../texts'

defineProps<{ here: Views['HereView']; leg?: Views['LegView'] }>()
defineEmits<{ pin: [end: 'start' | 'end', corner: string | null]; avoid: [how: 'bulky' | 'never']; forget: [number: number]; turn: [zone: string, when: string] }>()

const CORNERS = ['lower left', 'lower right', 'upper left', 'upper right']
const WHOLE = 'first whole cell'
const ENDS = [['start', tr('It begins')], ['end', tr('It ends')]] as const
const TURNS = [['first', tr('first')], ['', tr('with the rest')], ['last', tr('last')]] as const
const HOW = { bulky: 'bulky', never: 'never' }
</script>

<template>
    <div class="stack">
      <fieldset v-for="[end, says] in ENDS" :key="end">
        <legend class="label">{{ says }}</legend>
        <div class="chips">
          <v-btn class="chip" :aria-pressed="!here[end]" @click="$emit('pin', end, null)">{{ tr('Anywhere') }}</v-btn>
          <v-btn v-for="corner in CORNERS" :key="corner" class="chip" :aria-pressed="here[end] === corner" :data-testid="`${end}-${corner.replace(' ', '-')}`" @click="$emit('pin', end, corner)">{{ tr(corner) }}</v-btn>
          <v-btn v-if="end === 'start' && (here.cells || here.start === WHOLE)" class="chip" :aria-pressed="here.start === WHOLE" data-testid="start-whole-cell" @click="$emit('pin', end, WHOLE)">{{ tr('The first whole cell') }}</v-btn>
        </div>
        <p v-if="end === 'start' && here.cells" class="quiet" data-testid="cells">{{ here.cells }}</p>
      </fieldset>
      <fieldset v-for="one in here.turns" :key="one.zone">
        <legend class="label">{{ tr('{name}: sew this zone (all blocks)', { name: one.name }) }}</legend>
        <div class="chips">
          <v-btn v-for="[when, says] in TURNS" :key="when" class="chip" :aria-pressed="one.turn === when" :data-testid="`turn-${one.zone}-${when || 'rest'}`" @click="$emit('turn', one.zone, when)">{{ says }}</v-btn>
        </div>
      </fieldset>
      <p v-if="here.fault" class="wrong" role="alert">{{ here.fault }}</p>
      <ExitCard :here="here" />
      <div v-if="leg && !leg.sews" class="chips">
        <span class="quiet">{{ tr('Here, where the needle is:') }}</span>
        <v-btn class="chip" data-testid="avoid-bulky" @click="$emit('avoid', 'bulky')">{{ tr('Mark as bulky') }}</v-btn>
        <v-btn class="chip" data-testid="avoid-never" @click="$emit('avoid', 'never')">{{ tr('Never travel here') }}</v-btn>
      </div>
      <p v-else class="quiet">{{ tr('To mark a bulky seam or a path to avoid, step the needle to a travelling stretch first.') }}</p>
      <div v-if="here.avoided.length" class="chips" :aria-label="tr('Avoided')">
        <v-btn v-for="(one, k) in here.avoided" :key="one.number" class="chip" :data-testid="`avoided-${k}`" :title="tr('Forget this')" @click="$emit('forget', one.number)">{{ k + 1 }}: {{ HOW[one.how] }} ✕</v-btn>
      </div>
    </div>
</template>

<style scoped>
fieldset { border: 0; padding: 0; margin: 0; display: grid; gap: 6px; }
</style>
