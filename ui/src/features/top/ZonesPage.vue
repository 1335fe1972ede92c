<script setup lang="ts">
/** Zones: areas quilted together. Select patches, make them a zone, divide it, name it. */
import { computed, ref } from 'vue'
import type { Change } from '../../api/client'
import { useRouter } from 'vue-router'
import ZoneList from '../../parts/ZoneList.vue'
import { useQuilt } from '../../state/quilt'
import { useTop } from '../../state/top'
import { useZone } from '../../state/zone'
import CutCard from './CutCard.vue'
import ToldText from '../../parts/ToldText.vue'
import { counted, tr, whole } from '../../texts'

const emit = defineEmits<{ cut: [cut: { part: string; place: string; rings: number[][] } | undefined] }>()
const quilt = useQuilt()
const top = useTop()
const zone = useZone()
const router = useRouter()
const name = ref('')
const standOff = ref('')
const info = computed(() => zone.info)
const taking = ref<'take out' | 'replace' | 'on top'>()
const each = ref(false)
const first = computed(() => top.patches[0] ?? '')
const place = computed(() => first.value.slice(0, first.value.indexOf('/')))
const times = computed(() => {
  const part = quilt.view?.parts.find((p) => p.places.some((at) => at.id === place.value))
  return (quilt.view?.parts ?? []).filter((p) => p.kin === part?.kin).reduce((sum, p) => sum + p.places.length, 0)
})
/** The zones that hold any of the selected patches now. */
const held = computed(() => {
  const kinOf = (at: string) => quilt.view?.parts.find((p) => p.places.some((one) => one.id === at))?.kin
  const split = top.patches.map((ref) => [ref, ref.slice(0, ref.indexOf('/')), ref.slice(ref.indexOf('/') + 1)] as const)
  return quilt.zones.filter((z) => !z.on_top && split.some(([ref, at, patch]) => (z.part === 'top' ? z.patches.includes(ref) : z.part === kinOf(at) && z.patches.includes(patch))))
})
const TAKING = [['take out', tr('take these patches out')], ['replace', tr('replace it whole')], ['on top', tr('put the new one on top')]] as const
const asks = computed(() => held.value.some((z) => z.fill))

/** The zones that a change makes; undefined if it was refused. */
const zonesBy = (made: Change) => top.adds('zone', made, () => quilt.zones)
async function make() {
  if (!(await top.pointed())) return
  const made: Change = { kind: 'zone', refs: top.patches, everywhere: top.everywhere && top.onePlace, name: name.value.trim() || null, taking: held.value.length ? taking.value : null, each: each.value && top.patches.length > 1 }
  const added = await zonesBy(made)
  if (!added) return
  name.value = ''
  taking.value = undefined
  each.value = false
  const at = place.value
  top.drop()
  const [found] = added
  if (found) await zone.choose(found.key, found.shapes.some((s) => s.places.includes(at)) ? at : '')
}
function choose(key: string) {
  top.drop()
  void zone.choose(key)
}
function rename(event: Event) {
  const said = (event.target as HTMLInputElement).value.trim()
  if (said && said !== info.value?.name) void top.change('zone name', { kind: 'zone name', zone: zone.key, name: said })
}
async function remove() {
  const gone = zone.key
  if ((await top.change('zone', { kind: 'zone gone', zone: gone })) && zone.key === gone) await zone.choose('')
}
async function together() {
  const added = await zonesBy({ kind: 'together', zone: zone.key })
  if (added) await zone.choose(added[0]?.key ?? '')
}
async function surround() {
  const added = await zonesBy({ kind: 'surround', zone: zone.key })
  if (added) await zone.choose(added.at(-1)?.key ?? '')
}
const setStandOff = () => top.change('stand-off', { kind: 'stand-off', zone: zone.key, stand_off: standOff.value.trim() || null })
const fill = () => router.push({ name: 'fills', params: { quilt: quilt.id } })
</script>

<template>
  <section v-if="top.view" class="stack">
    <template v-if="top.patches.length">
      <h2 class="sub">{{ counted(top.patches.length, 'One patch', '{count} patches') }}</h2>
      <div class="chips">
        <v-btn class="chip" @click="top.point(first, 'alike', false)">{{ tr('All like it') }}</v-btn>
        <v-btn class="chip" data-testid="as-block" @click="top.point(first, 'block', false)">{{ tr('The whole block') }}</v-btn>
        <v-btn class="chip" data-testid="background" @click="top.point(first, 'background', false)">{{ tr('Background, in the block') }}</v-btn>
        <v-btn class="chip" data-testid="background-across" @click="top.point(first, 'background across', false)">{{ tr('Background, across all blocks') }}</v-btn>
      </div>
      <div v-if="top.onePlace && times > 1" class="chips" role="group" :aria-label="tr('Where')">
        <v-btn class="chip" :aria-pressed="top.everywhere" @click="top.everywhere = true">{{ tr('In all {times} like it', { times }) }}</v-btn>
        <v-btn class="chip" :aria-pressed="!top.everywhere" data-testid="only-here" @click="top.everywhere = false">{{ tr('Only here') }}</v-btn>
      </div>
      <label class="between"><span>{{ tr('Name') }}</span><input v-model="name" class="text" maxlength="80" :placeholder="tr('named for you')" data-testid="new-zone-name" @keydown.enter="make()" /></label>
      <div v-if="top.patches.length > 1" class="chips" role="group" :aria-label="tr('How many zones')">
        <v-btn class="chip" :aria-pressed="!each" @click="each = false">{{ tr('One zone') }}</v-btn>
        <v-btn class="chip" :aria-pressed="each" data-testid="each" @click="each = true">{{ tr('Each patch its own zone') }}</v-btn>
      </div>
      <template v-if="held.length">
        <p class="quiet">{{ tr('Now in') }} <template v-for="(one, k) in held" :key="one.key">{{ k ? ', ' : '' }}<v-btn class="plain" @click="choose(one.key)">“{{ one.name }}”</v-btn>{{ one.fill ? ` (${one.fill})` : '' }}</template>.</p>
        <div v-if="asks" class="chips" role="group" :aria-label="tr('What happens to that zone')">
          <v-btn v-for="[key, label] in TAKING" :key="key" class="chip" :aria-pressed="taking === key" :data-testid="`taking-${key.replace(' ', '-')}`" @click="taking = key">{{ label }}</v-btn>
        </div>
      </template>
      <p v-if="top.errorAt('zone')" class="card madder" role="alert">{{ top.errorAt('zone') }}</p>
      <div class="chips">
        <v-btn color="primary" variant="flat" data-testid="make-zone" :disabled="asks && !taking" @click="make()">{{ tr('Make a zone') }}</v-btn>
        <v-btn class="plain" @click="top.drop()">{{ tr('Cancel') }}</v-btn>
      </div>
    </template>
    <template v-else-if="info">
      <div class="between"><h2 class="sub">{{ info.name }}</h2><v-btn class="plain" data-testid="all-zones" @click="zone.choose('')">{{ tr('All zones') }}</v-btn></div>
      <p class="quiet">{{ info.occurs }} · {{ info.fill || (info.left_open ? tr('unquilted') : tr('no fill yet')) }}</p>
      <label class="between"><span>{{ tr('Name') }}</span><input class="text" :value="info.name" maxlength="80" data-testid="zone-name" @change="rename" @keydown.enter="($event.target as HTMLInputElement).blur()" /></label>
      <v-btn color="primary" variant="flat" data-testid="fill-it" @click="fill()">{{ info.fill ? tr('See its fill') : tr('Choose its fill') }}</v-btn>
      <v-btn class="plain" data-testid="surround" :title="tr('Makes three zones at once: the ditch, the echoes, and the area inside.')" @click="surround()">{{ tr('Ditch, two echoes, freehand inside') }}</v-btn>
      <CutCard :zone="info" @tried="emit('cut', $event)" />
      <label v-if="info.stands_off" class="between"><span>{{ tr('Keep away from appliqué by') }}</span><input v-model="standOff" class="text" :placeholder="info.stand_off || 'nothing'" @change="setStandOff()" /></label>
      <p v-for="where in ['zone name', 'zone', 'stand-off']" v-show="top.errorAt(where)" :key="where" class="wrong" role="alert">{{ top.errorAt(where) }}</p>
      <div class="chips">
        <v-btn v-if="info.cut" class="plain" data-testid="together" @click="together()">{{ tr('Join its pieces') }}</v-btn>
        <v-btn class="plain" data-testid="remove-zone" @click="remove()">{{ tr('Delete this zone') }}</v-btn>
      </div>
    </template>
    <template v-else>
      <p><ToldText :text="whole('Click a patch on the quilt. {shift} or a long press adds more; a {double} selects all like it.')"><template #shift><b>{{ tr('Shift-click') }}</b></template><template #double><b>{{ tr('double click') }}</b></template></ToldText></p>
      <ZoneList v-if="quilt.zones.length" :zones="quilt.zones" :lead="tr('Zones so far:')" @choose="choose" />
      <p v-else class="quiet">{{ tr('A zone is an area that you quilt together: a patch, a background, a whole block. There are none yet.') }}</p>
    </template>
  </section>
</template>
