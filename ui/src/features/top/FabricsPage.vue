<script setup lang="ts">
/** The fabrics: select one and click patches to use it there; names, colors, prints. */
import { computed, ref } from 'vue'
import { api, Problem, type Views } from '../../api/client'
import { useTop } from '../../state/top'
import ToldText from '../../parts/ToldText.vue'
import { tr, whole } from '../../texts'

const top = useTop()
const fabric = computed(() => top.view?.fabrics.find((f) => f.key === top.fabric))
const instead = ref('')
const others = computed(() => (top.view?.fabrics ?? []).filter((f) => f.key !== top.fabric))

function set(values: Partial<Views['FabricView']>) {
  const key = top.fabric
  void top.change('fabric', () => {
    const { name, colour, print } = top.view!.fabrics.find((one) => one.key === key)!
    return { kind: 'fabric', key, fabric: { name, colour, print, ...values } }
  })
}
async function add() {
  const added = await top.adds('fabric', { kind: 'fabric', fabric: { name: tr('New fabric'), colour: '#b9b2a3', print: 'calm' } }, () => top.view!.fabrics)
  if (added) top.fabric = added[0]?.key ?? ''
}
async function fromPhoto(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  try {
    const { colour, print } = await api.fabricColor(file)
    set({ colour, print })
  } catch (error) {
    if (!(error instanceof Problem)) throw error
    top.wrong = { where: 'fabric', message: error.message }
  }
}
const value = (event: Event) => (event.target as HTMLInputElement).value
</script>

<template>
  <section v-if="top.view" class="stack">
    <div class="palette" role="group" :aria-label="tr('Fabrics of this quilt')">
      <button v-for="one in top.view.fabrics" :key="one.key" class="cloth" :aria-pressed="one.key === top.fabric" :data-testid="`fabric-${one.key}`" @click="top.fabric = top.fabric === one.key ? '' : one.key">
        <span class="hue" :style="{ background: one.colour }" />
        <span><b>{{ one.name }}</b><small>{{ tr(one.tone) }}, {{ tr(one.print) }}</small></span>
      </button>
      <button class="cloth" data-testid="new-fabric" @click="add()"><span class="hue plus">+</span><span>{{ tr('A new fabric') }}</span></button>
    </div>
    <p v-if="top.errorAt('fabric')" class="card madder" role="alert">{{ top.errorAt('fabric') }}</p>
    <template v-if="fabric">
      <p class="card leaf"><ToldText :text="whole('{name} is selected. Click a patch to use this fabric there, in every matching block. Shift-click or a long press changes all patches of that fabric.')"><template #name><b>{{ fabric.name }}</b></template></ToldText></p>
      <label class="between"><span>{{ tr('Name') }}</span><input class="text" :value="fabric.name" maxlength="80" data-testid="fabric-name" @change="set({ name: value($event).trim() || fabric.name })" /></label>
      <label class="between"><span>{{ tr('Color') }}</span><input type="color" :value="fabric.colour" data-testid="fabric-colour" @change="set({ colour: value($event) })" /></label>
      <div class="between">
        <span>{{ tr('Print') }}</span>
        <span class="chips">
          <v-btn class="chip" :aria-pressed="fabric.print === 'calm'" @click="set({ print: 'calm' })">{{ tr('Calm') }}</v-btn>
          <v-btn class="chip" :aria-pressed="fabric.print === 'busy'" @click="set({ print: 'busy' })">{{ tr('Busy') }}</v-btn>
        </span>
      </div>
      <div class="between"><span>{{ tr('From a photo of the fabric') }}</span><label class="chip">{{ tr('Color and print …') }}<input type="file" accept="image/jpeg,image/png" class="sr" data-testid="fabric-photo" @change="fromPhoto" /></label></div>
      <div v-if="others.length" class="between">
        <span>{{ fabric.used ? tr('Delete it and use instead') : tr('Not used anywhere') }}</span>
        <span class="chips">
          <select v-if="fabric.used" v-model="instead" class="text" :aria-label="tr('The fabric that takes its place')"><option value="" disabled>{{ tr('choose') }}</option><option v-for="one in others" :key="one.key" :value="one.key">{{ one.name }}</option></select>
          <v-btn class="chip" :disabled="!!fabric.used && !instead" @click="top.change('fabric', { kind: 'fabric gone', key: top.fabric, instead: instead || others[0]!.key })">{{ tr('Delete') }}</v-btn>
        </span>
      </div>
    </template>
    <p v-else class="quiet">{{ tr('Select a fabric to use, rename or recolor it.') }}</p>
  </section>
</template>

<style scoped>
.palette { display: grid; grid-template-columns: 1fr 1fr; gap: 8px; }
.cloth { display: flex; gap: 9px; align-items: center; padding: 7px; border: 1px solid var(--rule); border-radius: 8px; background: var(--field); cursor: pointer; text-align: left; font-size: 14px; line-height: 1.2; min-height: 52px; }
.cloth[aria-pressed='true'] { border-color: var(--indigo); box-shadow: 0 0 0 1px var(--indigo); background: var(--indigo-wash); }
.cloth b, .cloth small { display: block; }
.cloth small { color: var(--soft); font-size: 13px; }
.hue { width: 36px; height: 36px; flex: none; border-radius: 6px; border: 1px solid #8a8577; }
.plus { display: grid; place-items: center; font-size: 20px; border-style: dashed; color: var(--indigo); }
select { max-width: 120px; }
</style>
