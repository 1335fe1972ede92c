<script setup lang="ts">
/** Moving the ruler with one finger, a small step at a time. */
import { figure } from '../../bench/figure'
import { useBench } from '../../state/bench'
import { useQuilt } from '../../state/quilt'
import { tr } from '../../texts'

const emit = defineEmits<{ nudge: [right: number, up: number]; turn: [degrees: number]; flip: [] }>()
const bench = useBench()
const quilt = useQuilt()
const WAYS = [
  [tr('left'), -1, 0, 'M18 12H6M11 7l-5 5 5 5'],
  [tr('right'), 1, 0, 'M6 12h12M13 7l5 5-5 5'],
  [tr('up'), 0, 1, 'M12 18V6M7 11l5-5 5 5'],
  [tr('down'), 0, -1, 'M12 6v12M7 13l5 5 5-5'],
] as const
const TURNS = [
  [1, tr('Turn it a degree to the left ([)'), tr('Turn the ruler to the left'), 'M6 14a6.5 6.5 0 1 1 3 4.6M5.4 8.6L6 14l5-1.6'],
  [-1, tr('Turn it a degree to the right (])'), tr('Turn the ruler to the right'), 'M18 14a6.5 6.5 0 1 0-3 4.6M18.6 8.6L18 14l-5-1.6'],
  [15, tr('Turn it by 15 degrees (r)'), tr('Turn the ruler by 15 degrees'), 'M4 19h16M4 19L17 8M14 19a11 11 0 0 0-3-6'],
] as const
</script>

<template>
  <div class="pad" role="group" :aria-label="tr('Move the ruler')">
    <button v-for="[name, right, up, icon] in WAYS" :key="name" :title="tr('{name} by {figure} {unit} (arrow key)', { name, figure: figure(bench.view!.nudge, quilt.unit).text, unit: quilt.unit })" :aria-label="tr('Ruler {name}', { name })" :data-testid="`nudge-${name}`" @click="emit('nudge', right, up)">
      <svg viewBox="0 0 24 24"><path :d="icon" /></svg>
    </button>
    <button v-for="[by, title, label, icon] in TURNS" :key="by" :title="title" :aria-label="label" :data-testid="`turn-${by}`" @click="emit('turn', by)"><svg viewBox="0 0 24 24"><path :d="icon" /></svg></button>
    <button :title="tr('Move the ruler to the other side of the line (x)')" :aria-label="tr('Move the ruler to the other side of the line')" data-testid="flip" @click="emit('flip')"><svg viewBox="0 0 24 24"><path d="M12 4v16M9 8l-5 4 5 4zM15 8l5 4-5 4z" /></svg></button>
  </div>
</template>

<style scoped>
.pad { display: grid; grid-template-columns: repeat(8, 1fr); gap: 4px; flex: none; }
button { border: 1px solid var(--rule); border-radius: 10px; background: var(--field); cursor: pointer; padding: 0; display: grid; place-items: center; min-height: 40px; }
button:hover { border-color: var(--etched); }
svg { width: 22px; height: 22px; fill: none; stroke: var(--etched); stroke-width: 2; stroke-linecap: round; stroke-linejoin: round; }
@media (pointer: coarse) { .pad { grid-template-columns: repeat(auto-fill, minmax(44px, 1fr)); } button { min-height: 48px; } }
</style>
