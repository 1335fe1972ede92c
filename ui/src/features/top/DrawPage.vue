<script setup lang="ts">
/** Drawing a block: begin on a grid or read a file, then seams, fabrics, appliqués. */
import { computed, nextTick, ref, watch } from 'vue'
import type { Change } from '../../api/client'
import { useDrawing, type Tool } from '../../state/drawing'
import { useQuilt } from '../../state/quilt'
import { useTop } from '../../state/top'
import BringCard from './BringCard.vue'
import FabricPick from './FabricPick.vue'
import { counted, tr } from '../../texts'

const TOOLS: [Tool, string][] = [['seam', 'seams'], ['colour', 'colour'], ['applique', 'appliqué']]
const drawing = useDrawing()
const quilt = useQuilt()
const top = useTop()
const like = computed(() => top.blocks.get(top.view?.cells[0]?.block ?? '')?.doc as { width: string; height: string } | undefined)
const name = ref(tr('My block'))
const width = ref('')
const height = ref('')
const columns = ref(4)
const rows = ref(4)
const seamRise = ref('')
watch(() => [drawing.seam, drawing.view], () => (seamRise.value = drawing.chosen?.rise ?? ''))

/** Adds a block and opens it for drawing. */
async function added(change: Change) {
  const [found] = (await top.adds('draw', change, () => top.view!.blocks)) ?? []
  await nextTick()
  if (found) await drawing.begin(found.key)
}
const begin = () => added({
  kind: 'own block', name: name.value.trim() || tr('My block'), width: width.value.trim() || (like.value?.width ?? '12 in'),
  height: height.value.trim() || width.value.trim() || (like.value?.height ?? '12 in'), columns: columns.value, rows: rows.value,
})
function setTool(tool: Tool) {
  drawing.drop()
  drawing.tool = tool
  if (tool !== 'seam' && !drawing.fabric) drawing.fabric = top.view?.fabrics[1]?.key ?? top.view?.fabrics[0]?.key ?? ''
}
const bend = (left: boolean) => drawing.make({ kind: 'seam rise', seam: drawing.seam!, rise: seamRise.value.trim() || null, left })
async function out() {
  const gone = drawing.seam!
  drawing.drop()
  await drawing.make({ kind: 'seams gone', seams: [gone] })
}
function regrid(event: Event, which: 'columns' | 'rows') {
  const { columns: c, rows: r } = drawing.view!
  void drawing.make({ kind: 'drawing grid', columns: c, rows: r, [which]: Number((event.target as HTMLInputElement).value) })
}
function lay() {
  const block = drawing.key
  drawing.close()
  top.block = block
  top.brush = { block, turns: 0, mirrored: false }
}
</script>

<template>
  <section v-if="!drawing.view" class="stack">
    <div class="between"><h2 class="sub">{{ tr('A block of your own') }}</h2><v-btn class="plain" @click="drawing.close()">{{ tr('Cancel') }}</v-btn></div>
    <label class="between"><span>{{ tr('Name') }}</span><input v-model="name" class="text" maxlength="80" data-testid="own-name" /></label>
    <div class="two">
      <label>{{ tr('Width') }}<input v-model="width" class="text" :placeholder="like?.width ?? '12 in'" data-testid="own-width" /></label>
      <label>{{ tr('Height') }}<input v-model="height" class="text" :placeholder="width || (like?.height ?? '12 in')" data-testid="own-height" /></label>
      <label>{{ tr('Grid, across') }}<input v-model.number="columns" class="text" type="number" min="1" max="24" data-testid="own-columns" /></label>
      <label>{{ tr('Grid, up') }}<input v-model.number="rows" class="text" type="number" min="1" max="24" data-testid="own-rows" /></label>
    </div>
    <v-btn color="primary" variant="flat" data-testid="own-begin" @click="begin()">{{ tr('Draw on this grid') }}</v-btn>
    <p v-if="top.errorAt('draw')" class="card madder" role="alert">{{ top.errorAt('draw') }}</p>
    <BringCard @bring="added" />
  </section>
  <section v-else class="stack">
    <div class="between"><h2 class="sub">{{ drawing.view.name }}</h2><v-btn class="plain" data-testid="draw-done" @click="drawing.close()">{{ tr('Back to the blocks') }}</v-btn></div>
    <div class="chips" role="group" :aria-label="tr('What you draw')">
      <v-btn v-for="[key, label] in TOOLS" :key="key" class="chip" :aria-pressed="drawing.tool === key" :data-testid="`tool-${key}`" @click="setTool(key)">{{ label }}</v-btn>
    </div>
    <template v-if="drawing.tool !== 'colour'">
      <label class="between"><span>{{ tr('Curve it by a rise of') }}</span><input v-model="drawing.rise" class="text short" :placeholder="tr('straight')" data-testid="draw-rise" /></label>
      <div v-if="drawing.rise.trim()" class="chips" role="group" :aria-label="tr('To which side, going from the first point to the second')">
        <v-btn class="chip" :aria-pressed="drawing.left" @click="drawing.left = true">{{ tr('Bulges to the left') }}</v-btn>
        <v-btn class="chip" :aria-pressed="!drawing.left" @click="drawing.left = false">{{ tr('To the right') }}</v-btn>
      </div>
    </template>
    <FabricPick v-if="drawing.tool !== 'seam'" :fabrics="top.view!.fabrics" :model-value="drawing.fabric" :label="tr('Selected')" @update:model-value="drawing.fabric = $event ?? ''" />
    <p v-if="top.errorAt('draw')" class="card madder" role="alert">{{ top.errorAt('draw') }}</p>
    <div v-if="drawing.chosen" class="seam">
      <p class="label">{{ tr('This seam{open}', { open: drawing.chosen.open ? tr(' ends in the open: it divides nothing yet') : '' }) }}</p>
      <label class="between"><span>{{ tr('Rise') }}</span><input v-model="seamRise" class="text short" :placeholder="tr('straight')" data-testid="seam-rise" @keydown.enter="bend(drawing.chosen.left)" /></label>
      <div class="chips">
        <v-btn class="chip" data-testid="seam-bend" @click="bend(drawing.chosen.left)">{{ tr('Curve it') }}</v-btn>
        <v-btn v-if="drawing.chosen.rise" class="chip" @click="bend(!drawing.chosen.left)">{{ tr('To the other side') }}</v-btn>
        <v-btn class="chip" data-testid="seam-out" @click="out()">{{ tr('Remove it') }}</v-btn>
      </div>
    </div>
    <div v-if="drawing.view.appliques.length" class="chips">
      <v-btn v-for="one in drawing.view.appliques" :key="one" class="plain" @click="drawing.make({ kind: 'applique gone', patch: one })">{{ tr('Take off {replace}', { replace: one.replace('applique-', 'appliqué ') }) }}</v-btn>
    </div>
    <div class="two">
      <label>{{ tr('Grid, across') }}<input class="text" type="number" min="1" max="24" :value="drawing.view.columns" @change="regrid($event, 'columns')" /></label>
      <label>{{ tr('Grid, up') }}<input class="text" type="number" min="1" max="24" :value="drawing.view.rows" @change="regrid($event, 'rows')" /></label>
    </div>
    <p class="quiet">{{ tr('{patches}, {seams}. Click a seam to curve it or remove it.', { patches: counted(drawing.view.patches.length, '{count} patch', '{count} patches'), seams: counted(drawing.view.seams.length, '{count} seam', '{count} seams') }) }} {{ quilt.unit === 'mm' ? '' : tr('A rise is how far the seam bulges at its middle.') }}</p>
    <v-btn color="primary" variant="flat" data-testid="draw-lay" @click="lay()">{{ tr('Put it on the quilt') }}</v-btn>
  </section>
</template>

<style scoped>
.two { display: grid; grid-template-columns: 1fr 1fr; gap: 10px; }
.two label { display: grid; gap: 2px; font-size: 14px; }
.short { width: 110px; }
.seam { display: grid; gap: 8px; border: 1px solid var(--rule); border-radius: 10px; padding: 10px 12px; background: var(--field); }
</style>
