<script setup lang="ts">
/** Kit: tools and supplies by group, and the spacing that each mark of a ruler makes with the foot. */
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import StationPage from '../../parts/StationPage.vue'
import WordsText from '../../parts/WordsText.vue'
import { typed, usePressed } from '../../parts/pressed'
import { useKit } from '../../state/kit'
import { useQuilt } from '../../state/quilt'
import QuiltKit from './QuiltKit.vue'
import RulerPicture from './RulerPicture.vue'
import ThingPicture from './ThingPicture.vue'
import ItemPanel from './ItemPanel.vue'
import { tr } from '../../texts'

const quilt = useQuilt()
const kit = useKit()
const adding = ref('')
const makes = ref(false)
const shown = computed(() => {
  const rulers = (kit.view?.rulers ?? []).filter((ruler) => ruler.makes.length)
  return makes.value && kit.thing ? (rulers.find((ruler) => ruler.key === kit.key) ?? (kit.thing.kind === 'ruler foot' ? rulers[0] : undefined)) : undefined
})
watch(() => [quilt.read, quilt.unit], () => void kit.look(), { immediate: true })
watch(() => kit.key, (now) => { if (!now) makes.value = false })
async function choose(key: string) {
  await kit.settle()
  kit.choose(kit.key === key ? '' : key)
}
async function add(kind: string) {
  adding.value = ''
  await kit.add(kind)
}
function keys(event: KeyboardEvent) {
  if (event.key !== 'Escape' || typed(event)) return
  if (makes.value) makes.value = false
  else void kit.settle().then(() => kit.choose(''))
}
usePressed(keys)
onBeforeUnmount(() => void kit.settle())
</script>

<template>
  <StationPage v-if="kit.view">
    <div v-if="shown" class="makes">
      <v-btn class="chip back" data-testid="back-to-inventory" @click="makes = false">{{ tr('‹ All tools') }}</v-btn>
      <RulerPicture :foot="kit.view.foot" :makes="shown.makes" />
    </div>
    <div v-else class="inventory" data-testid="inventory">
      <section v-for="group in kit.groups" :key="group.key" :aria-label="group.label">
        <div class="between"><h2 class="sub">{{ group.label }}</h2><v-btn class="plain" :aria-expanded="adding === group.key" :data-testid="`add-${group.key}`" @click="adding = adding === group.key ? '' : group.key">{{ tr('Add …') }}</v-btn></div>
        <div v-if="adding === group.key" class="chips kinds">
          <v-btn v-for="kind in group.kinds" :key="kind.kind" class="chip" :data-testid="`kind-${kind.kind.replaceAll(' ', '-')}`" @click="add(kind.kind)">{{ kind.label }}</v-btn>
        </div>
        <div class="board">
          <button v-for="thing in group.things" :key="thing.key" class="thing" :class="{ away: thing.state !== 'at hand' }" :aria-pressed="kit.key === thing.key" :data-testid="`thing-${thing.key}`" @click="choose(thing.key)">
            <ThingPicture :thing="thing" />
            <b>{{ thing.name }}</b>
            <small v-if="thing.state !== 'at hand'">{{ tr(thing.state) }}</small><small v-else-if="thing.text.length"><WordsText :words="thing.text" /></small>
          </button>
        </div>
      </section>
    </div>
    <template #panel>
      <ItemPanel v-if="kit.thing" @makes="makes = true" />
      <QuiltKit v-else />
    </template>
  </StationPage>
</template>

<style scoped>
.inventory { height: 100%; overflow: auto; padding: 18px 26px 30px; background: var(--cloth); display: grid; gap: 20px; align-content: start; }
.board { display: grid; grid-template-columns: repeat(auto-fill, minmax(140px, 1fr)); gap: 12px; padding: 4px 0 12px; border-bottom: 5px solid var(--board); }
.thing { display: grid; justify-items: center; align-content: start; gap: 4px; padding: 10px 6px 8px; border: 1px solid var(--rule); border-radius: 10px; background: var(--paper); cursor: pointer; font-size: 14px; line-height: 1.2; text-align: center; min-height: 112px; }
.thing:hover { border-color: var(--indigo); }
.thing[aria-pressed='true'] { border-color: var(--indigo); background: var(--indigo-wash); box-shadow: 0 0 0 1px var(--indigo); }
.thing small { font-size: 13px; color: var(--soft); }
.away { border-style: dashed; background: transparent; }
.away :deep(svg) { opacity: .5; }
.kinds { margin: 6px 0; }
.makes { position: relative; height: 100%; }
.back { position: absolute; left: 14px; bottom: 12px; z-index: 2; }
</style>
