<script setup lang="ts">
/** The present fill in a line; the others by group, as tiles, on request. Has no knowledge of single fills. */
import { computed, ref, watch } from 'vue'
import { useQuilt } from '../../state/quilt'
import { useVariants } from '../../state/variants'
import { useZone } from '../../state/zone'
import FillTile from './FillTile.vue'
import { tr } from '../../texts'

const quilt = useQuilt()
const zone = useZone()
const variants = useVariants()

const fills = computed(() => quilt.view?.fills ?? [])
const groups = computed(() => [...new Set(fills.value.map((fill) => fill.group))])
const kind = computed(() => zone.plan?.fill?.kind as string | undefined)
const chosen = computed(() => fills.value.find((fill) => fill.kind === kind.value))
const group = ref(chosen.value?.group ?? groups.value[0])
const open = ref(!chosen.value)
watch(chosen, (now) => { if (now) group.value = now.group })
watch(() => zone.key, () => { open.value = !chosen.value })
const shown = computed(() => fills.value.filter((fill) => fill.group === group.value))
function choose(fill: string) {
  open.value = false
  void zone.change(fill)
}
</script>

<template>
  <div class="chooser">
    <button v-if="chosen" class="now" :aria-expanded="open" :title="chosen.help" data-testid="other-fill" @click="open = !open">
      <svg viewBox="0 0 72 39" preserveAspectRatio="xMidYMid slice" aria-hidden="true"><path :d="chosen.tile" /></svg>
      <span><b>{{ chosen.label }}</b><span class="quiet">{{ chosen.help }}</span></span>
      <span class="link">{{ open ? tr('Close') : tr('Change fill') }}</span>
    </button>
    <template v-if="open || !chosen">
      <div class="groups" role="group" :aria-label="tr('Kinds of fill')">
        <v-btn class="plain" data-testid="gallery" :title="tr('key a')" @click="variants.show('gallery')">{{ tr('See every fill here') }}</v-btn>
        <v-btn v-for="one in groups" :key="one" class="chip" :aria-pressed="one === group" :data-testid="`group-${one}`" @click="group = one">{{ one }}</v-btn>
      </div>
      <div class="tiles" role="group" :aria-label="tr('Fill')">
        <FillTile v-for="fill in shown" :key="fill.kind" :fill="fill" :chosen="fill.kind === kind" @click="choose(fill.kind)" />
      </div>
    </template>
  </div>
</template>

<style scoped>
.chooser { display: grid; gap: 9px; }
.now { display: grid; grid-template-columns: 72px 1fr auto; gap: 10px; align-items: center; text-align: left; border: 1px solid var(--indigo); border-radius: 10px; background: var(--field); padding: 6px 10px 6px 6px; cursor: pointer; }
.now svg { height: 48px; width: 72px; background: #efe9dc; border-radius: 6px; }
.now path { fill: none; stroke: #2b3a67; stroke-width: 1.5; stroke-dasharray: 4 1.6; }
.now span { display: grid; }
.now b { color: var(--indigo); }
.now .quiet { font-size: 13px; line-height: 1.25; display: -webkit-box; -webkit-box-orient: vertical; -webkit-line-clamp: 2; overflow: hidden; }
.link { color: var(--indigo); text-decoration: underline; text-underline-offset: 3px; font-size: 14px; }
.groups { display: flex; flex-wrap: wrap; gap: 5px; }
.groups .chip { padding: 1px 9px; min-height: 30px; font-size: 13px; }
.tiles { display: grid; grid-template-columns: repeat(3, minmax(0, 1fr)); gap: 7px; }
</style>
