<script setup lang="ts">
/** The blocks of the quilt: select one to place it, or add one; its numbers, fabrics and measurements. */
import { computed, nextTick, ref } from 'vue'
import type { Change, Views } from '../../api/client'
import LengthField from '../../parts/LengthField.vue'
import { useQuilt } from '../../state/quilt'
import { useTop } from '../../state/top'
import BlockNumbers from './BlockNumbers.vue'
import FabricPick from './FabricPick.vue'
import MeasuredCard from './MeasuredCard.vue'
import PatchPicture from '../../parts/PatchPicture.vue'
import ToldText from '../../parts/ToldText.vue'
import { tr, whole } from '../../texts'

const emit = defineEmits<{ draw: [key: string] }>()
const quilt = useQuilt()
const top = useTop()
const adding = ref(false)
const root = ref<HTMLElement>()
const colours = computed(() => Object.fromEntries((top.view?.fabrics ?? []).map((f) => [f.key, f.colour])))
const block = computed(() => top.blocks.get(top.block))
const inHand = computed(() => top.brush?.block === block.value?.key)
const size = computed(() => top.blocks.get(top.view?.cells[0]?.block ?? '') ?? top.view?.blocks[0])

/** The roles of a new block take the quilt's fabrics in order. */
function roleColours(tile: Views['TileView']) {
  const fabrics = top.view?.fabrics ?? []
  return Object.fromEntries(tile.roles.map((_, k) => [`role-${k}`, fabrics[k % fabrics.length]?.colour ?? '#ccc']))
}
async function add(tile: Views['TileView']) {
  const like = size.value?.doc as { width: string; height: string } | undefined
  const fabrics = top.view!.fabrics
  const roles = Object.fromEntries(tile.roles.map((role, k) => [role, fabrics[k % fabrics.length]!.key]))
  const made = { name: tile.name, width: like?.width ?? '12 in', height: like?.height ?? '12 in', art: { kind: 'pattern', pattern: tile.pattern, fabrics: roles } }
  await hold({ kind: 'new block', block: made as Views['Block'] })
}
/** Adds a block and selects it. */
async function hold(change: Change) {
  const added = await top.adds('block', change, () => top.view!.blocks)
  if (!added) return
  adding.value = false
  await nextTick()
  root.value?.closest('aside')?.scrollTo(0, 0)
  if (added[0]) take(added[0].key)
}
function take(key: string) {
  top.block = key
  top.place = ''
  top.brush = { block: key, turns: 0, mirrored: false }
}
function turn(by: number, mirror: boolean) {
  if (top.brush) {
    top.brush = { ...top.brush, turns: (top.brush.turns + (top.brush.mirrored ? -by : by) + 4) % 4, mirrored: top.brush.mirrored !== mirror }
  } else if (top.place) void top.change('block', { kind: 'turn', places: [top.place], by, mirror })
}
defineExpose({ turn })
const turned = computed(() => {
  const at = top.brush ?? top.cell
  return at ? `scale(${at.mirrored ? -1 : 1}, 1) rotate(${-90 * at.turns}deg)` : 'none'
})
</script>

<template>
  <section v-if="top.view && adding" class="stack">
    <div class="between"><h2 class="sub">{{ tr('A new block') }}</h2><v-btn class="plain" @click="adding = false">{{ tr('Cancel') }}</v-btn></div>
    <div class="tiles">
      <button v-for="tile in top.view.tiles" :key="tile.name" class="tile" :title="tile.help" :data-testid="`tile-${tile.name}`" @click="add(tile)">
        <PatchPicture :patches="tile.patches" :width="100" :height="100" :colours="roleColours(tile)" />
        <span>{{ tile.name }}</span>
      </button>
    </div>
  </section>
  <section v-else-if="top.view" ref="root" class="stack">
    <div class="tiles" role="group" :aria-label="tr('Blocks of this quilt')">
      <button v-for="one in top.view.blocks" :key="one.key" class="tile" :class="{ now: one.key === top.block }" :aria-pressed="top.brush?.block === one.key" :data-testid="`block-${one.key}`" @click="take(one.key)">
        <PatchPicture :patches="one.patches" :width="one.width" :height="one.height" :colours="colours" />
        <span>{{ one.name }}</span><small>{{ one.laid ? `${one.laid} ×` : tr('not in the quilt') }}</small>
      </button>
      <button class="tile add" data-testid="new-block" @click="adding = true"><b>+</b><span>{{ tr('A new block') }}</span></button>
    </div>
    <v-btn class="chip" data-testid="draw-own" @click="emit('draw', '')">{{ tr('Draw a block, or import one …') }}</v-btn>
    <p v-if="top.errorAt('block') || top.errorAt('paint')" class="card madder" role="alert">{{ top.errorAt('block') || top.errorAt('paint') }}</p>
    <template v-if="block">
      <div class="hand card" :class="inHand ? 'leaf' : 'tip'">
        <PatchPicture :patches="block.patches" :width="block.width" :height="block.height" :colours="colours" :size="48" :style="{ transform: turned }" />
        <p v-if="inHand"><ToldText :text="whole('{name} is selected: click or drag on the quilt to place it.')"><template #name><b>{{ block.name }}</b></template></ToldText></p>
        <p v-else-if="top.cell"><b>{{ block.name }}</b>{{ tr(', row {split}, block {split2}.', { split: top.place.split('-')[0], split2: top.place.split('-')[1] }) }}</p>
        <p v-else><b>{{ block.name }}</b></p>
      </div>
      <div class="chips">
        <v-btn class="chip" title="r" @click="turn(1, false)">{{ tr('↺ Turn') }}</v-btn>
        <v-btn class="chip" title="m" @click="turn(0, true)">{{ tr('⇋ Mirror') }}</v-btn>
        <v-btn v-if="inHand" class="chip" @click="top.brush = undefined">{{ tr('Deselect') }}</v-btn>
        <v-btn v-else class="chip" @click="take(block.key)">{{ tr('Select') }}</v-btn>
      </div>
      <div class="two">
        <LengthField v-for="field in block.fields.slice(0, 2)" :key="field.name" :field="field" :error="top.errorAt(`block.${field.name}`)" :unit="quilt.unit" late @entered="top.change(`block.${field.name}`, { kind: 'block', key: block.key, block: { ...block.doc, [field.name]: $event } })" />
      </div>
      <BlockNumbers :block="block" />
      <FabricPick
        v-for="role in block.roles" :key="role.role" :fabrics="top.view.fabrics" :model-value="role.fabric" :label="role.role"
        @update:model-value="top.change('block', { kind: 'recolour', key: block.key, roles: { [role.role]: $event! } })"
      />
      <MeasuredCard :block="block" />
      <div class="chips">
        <v-btn class="plain" @click="hold({ kind: 'copy block', key: block.key })">{{ tr('Duplicate with other fabrics') }}</v-btn>
        <v-btn v-if="!block.roles.length" class="plain" @click="emit('draw', block.key)">{{ tr('Edit the drawing') }}</v-btn>
        <v-btn v-if="!block.laid" class="plain" @click="top.change('block', { kind: 'block gone', key: block.key })">{{ tr('Delete this block') }}</v-btn>
      </div>
    </template>
    <p v-else class="quiet">{{ tr('Select a block to place it, or click a block on the quilt to see it here.') }}</p>
  </section>
</template>

<style scoped>
.tiles { display: grid; grid-template-columns: repeat(4, minmax(0, 1fr)); gap: 8px; }
.tile { display: grid; justify-items: center; align-content: start; gap: 3px; padding: 7px 2px; border: 1px solid var(--rule); border-radius: 8px; background: var(--field); cursor: pointer; font-size: 13px; line-height: 1.15; text-align: center; }
.tile:hover, .tile.now { border-color: var(--indigo); }
.tile[aria-pressed='true'] { border-color: var(--indigo); background: var(--indigo-wash); box-shadow: 0 0 0 1px var(--indigo); }
.tile small { color: var(--soft); font-size: 13px; }
.add { align-content: center; color: var(--indigo); }
.add b { font-size: 26px; line-height: 1; }
.hand { display: flex; gap: 12px; align-items: center; }
.two { display: grid; grid-template-columns: 1fr 1fr; gap: 10px; }
</style>
