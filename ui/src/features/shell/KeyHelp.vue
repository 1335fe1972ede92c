<script setup lang="ts">
/** All keys on one card: those of the current station first, the others folded. */
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { tr } from '../../texts'

type Keys = [key: string, does: string][]
const open = defineModel<boolean>({ required: true })
const route = useRoute()
const EVERYWHERE: Keys = [
  ['1 … 7', tr('Top, Fills, Balance, Kit, Marks, Stitch, Log')], ['z  Z', tr('undo, redo')], ['f  g', tr('whole quilt, this block')], ['+  −', tr('zoom in, out')],
  ['arrows', tr('move the quilt')], ['c', tr('a crosshair: arrows move it, Enter clicks, Shift-Enter adds')], ['?', tr('this card')],
]
const STATIONS: Record<string, { label: string; keys: Keys }> = {
  top: { label: tr('Top'), keys: [['r  m', tr('turn or mirror the selected block')], [tr('Esc'), tr('deselect the block')]] },
  fills: {
    label: tr('Fills'),
    keys: [['[  ]', tr('spacing: one marking step closer, wider')], ['{  }', tr('angle: −5° / +5°')], [',  .', tr('the line before, the next line')],
      ['e', tr('the quilt in relief')], ['a  v', tr('all fills that fit; the next variant')], [tr('Esc'), tr('deselect the line, then the zone')]],
  },
  balance: { label: tr('Balance'), keys: [['e', tr('the quilt in relief')], ['d', tr('firmness as a map')]] },
  bench: { label: tr('Ruler bench'), keys: [['arrows', tr('move the ruler')], ['r  [  ]', tr('turn by 15 degrees, by one')], ['x', tr('other side of the line')], ['l  k', tr('place for the line, keep the line')], ['space', tr('next line')]] },
  stitch: { label: tr('Stitch'), keys: [['space', tr('run or halt the needle')], ['←  →', tr('one piece back, one on')]] },
  machine: {
    label: tr('At the machine'),
    keys: [['space', tr('done, next')], ['b  t', tr('back, thread broke')], ['s  h', tr('skip, sew by eye')], ['u  w', tr('unpick, new bobbin')], ['l  p', tr('lines left, pause')]],
  },
}
const here = computed(() => STATIONS[String(route.name)])
const others = computed(() => Object.values(STATIONS).filter((one) => one !== here.value))
</script>

<template>
  <v-dialog v-model="open" max-width="480" aria-labelledby="keys">
    <div class="sheet">
      <h2 id="keys">{{ tr('Keys') }}</h2>
      <div class="all">
        <section v-for="group in [...(here ? [here] : []), { label: tr('Everywhere'), keys: EVERYWHERE }]" :key="group.label">
          <h3>{{ group.label }}</h3>
          <dl><div v-for="[key, does] in group.keys" :key="key"><dt><kbd>{{ key }}</kbd></dt><dd>{{ does }}</dd></div></dl>
        </section>
        <details>
          <summary class="label folds">{{ tr('Other stations') }}</summary>
          <section v-for="group in others" :key="group.label">
            <h3>{{ group.label }}</h3>
            <dl><div v-for="[key, does] in group.keys" :key="key"><dt><kbd>{{ key }}</kbd></dt><dd>{{ does }}</dd></div></dl>
          </section>
        </details>
      </div>
      <v-btn color="primary" variant="flat" @click="open = false">{{ tr('Back to the quilt') }}</v-btn>
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
