<script setup lang="ts">
/** All keys on one card: those of the station that she is in first, the others folded. */
import { computed } from 'vue'
import { useRoute } from 'vue-router'

type Keys = [key: string, does: string][]
const open = defineModel<boolean>({ required: true })
const route = useRoute()
const EVERYWHERE: Keys = [
  ['1 … 7', 'Top, Fills, Balance, Kit, Marks, Stitch, Log'], ['z  Z', 'undo, redo'], ['f  g', 'whole quilt, this block'], ['+  −', 'zoom in, out'],
  ['arrows', 'move the quilt'], ['c', 'a crosshair: arrows move it, Enter clicks, Shift-Enter adds'], ['?', 'this card'],
]
const STATIONS: Record<string, { label: string; keys: Keys }> = {
  top: { label: 'Top', keys: [['r  m', 'turn or mirror the selected block'], ['Esc', 'deselect the block']] },
  fills: {
    label: 'Fills',
    keys: [['[  ]', 'spacing: one marking step closer, wider'], ['{  }', 'angle: −5° / +5°'], [',  .', 'the line before, the next line'],
      ['e', 'the quilt in relief'], ['a  v', 'all fills that fit; the next variant'], ['Esc', 'deselect the line, then the zone']],
  },
  balance: { label: 'Balance', keys: [['e', 'the quilt in relief'], ['d', 'firmness as a map']] },
  bench: { label: 'Ruler bench', keys: [['arrows', 'move the ruler'], ['r  [  ]', 'turn by 15 degrees, by one'], ['x', 'other side of the line'], ['l  k', 'place for the line, keep the line'], ['space', 'next line']] },
  stitch: { label: 'Stitch', keys: [['space', 'run or halt the needle'], ['←  →', 'one piece back, one on']] },
  machine: {
    label: 'At the machine',
    keys: [['space', 'done, next'], ['b  t', 'back, thread broke'], ['s  h', 'skip, sew by eye'], ['u  w', 'unpick, new bobbin'], ['l  p', 'lines left, pause']],
  },
}
const here = computed(() => STATIONS[String(route.name)])
const others = computed(() => Object.values(STATIONS).filter((one) => one !== here.value))
</script>

<template>
  <v-dialog v-model="open" max-width="480" aria-labelledby="keys">
    <div class="sheet">
      <h2 id="keys">Keys</h2>
      <div class="all">
        <section v-for="group in [...(here ? [here] : []), { label: 'Everywhere', keys: EVERYWHERE }]" :key="group.label">
          <h3>{{ group.label }}</h3>
          <dl><div v-for="[key, does] in group.keys" :key="key"><dt><kbd>{{ key }}</kbd></dt><dd>{{ does }}</dd></div></dl>
        </section>
        <details>
          <summary class="label folds">Other stations</summary>
          <section v-for="group in others" :key="group.label">
            <h3>{{ group.label }}</h3>
            <dl><div v-for="[key, does] in group.keys" :key="key"><dt><kbd>{{ key }}</kbd></dt><dd>{{ does }}</dd></div></dl>
          </section>
        </details>
      </div>
      <v-btn color="primary" variant="flat" @click="open = false">Back to the quilt</v-btn>
    </div>
  </v-dialog>
</template>

<style scoped>
.sheet { background: var(--paper); border-radius: 12px; padding: 20px 24px; display: grid; gap: 14px; }
.all { overflow-y: auto; max-height: calc(100vh - 220px); display: grid; gap: 14px; }
section { display: grid; gap: 4px; }
dl { display: grid; gap: 2px; margin: 0; }
dl div { display: grid; grid-template-columns: 112px minmax(0, 1fr); gap: 14px; }
dd { font-weight: 400; margin: 0; }
kbd { font: inherit; font-weight: 700; white-space: pre; }
</style>
