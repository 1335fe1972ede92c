<script setup lang="ts">
/** All keys on one card. */
const open = defineModel<boolean>({ required: true })
const KEYS = [
  ['[  ]', 'spacing: one marking step closer, wider'],
  ['{  }', 'angle: −5° / +5°'],
  [',  .', 'the line before, the next line'],
  ['a  v', 'Fills: all that fit; the variants in turn'],
  ['Esc', 'deselect the line, then the zone'],
  ['z  Z', 'undo, redo'],
  ['f  g', 'whole quilt, this zone'],
  ['+  −', 'zoom in, out'],
  ['arrows', 'move the quilt'],
  ['c', 'a crosshair: arrows move it, Enter clicks, Shift-Enter adds'],
  ['1 2 3 4 5', 'Top, Fills, Kit, Marks, Stitch'],
  ['space  ←  →', 'Stitch: run or halt the needle, one piece back, one on'],
  ['space  b  t', 'At the machine: done, back, thread broke'],
  ['s h u w l p', 'At the machine: skip, by eye, unpick, new bobbin, lines left, pause'],
  ['r  m', 'Top: turn or mirror the selected block'],
  ['r x  [ ]', 'Ruler bench: turn by 15 degrees, other side, turn by one; arrows move it'],
  ['l k  space', 'Ruler bench: place for the line, keep the line, next line'],
  ['?', 'this card'],
]
</script>

<template>
  <v-dialog v-model="open" max-width="440">
    <div class="sheet">
      <h2>Keys</h2>
      <dl class="rows"><div v-for="[key, does] in KEYS" :key="key"><dt><kbd>{{ key }}</kbd></dt><dd>{{ does }}</dd></div></dl>
      <v-btn color="primary" variant="flat" @click="open = false">Back to the quilt</v-btn>
    </div>
  </v-dialog>
</template>

<style scoped>
.sheet { background: var(--paper); border-radius: 12px; padding: 20px 24px; display: grid; gap: 14px; }
dd { font-weight: 400; }
kbd { font: inherit; font-weight: 700; white-space: pre; }
</style>
