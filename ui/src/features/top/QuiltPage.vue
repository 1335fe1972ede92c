<script setup lang="ts">
/** The quilt as a whole: its name, its use, its edge, and batting and backing beyond the edge. */
import { computed } from 'vue'
import type { Views } from '../../api/client'
import FieldControl from '../../parts/FieldControl.vue'
import LengthField from '../../parts/LengthField.vue'
import { useQuilt } from '../../state/quilt'
import { useTop } from '../../state/top'
import FabricPick from './FabricPick.vue'
import { tr } from '../../texts'

const USES: Views['SetQuilt']['use'][] = ['bed', 'lap', 'baby', 'wall', 'runner', 'garment or bag', 'practice piece']
const quilt = useQuilt()
const top = useTop()
const doc = computed(() => top.view!.doc as { use: Views['SetQuilt']['use']; line_ends: Views['SetQuilt']['line_ends']; edge: string; batting_overhang: string; backing_overhang: string; backing: string | null })

function set(where: string, values: Record<string, unknown>) {
  void top.change(where, () => {
    const { use, line_ends, edge, batting_overhang, backing_overhang, backing } = doc.value
    return { kind: 'quilt', use, line_ends, edge, batting_overhang, backing_overhang, backing, ...values }
  })
}
function rename(event: Event) {
  const name = (event.target as HTMLInputElement).value.trim()
  if (name && name !== quilt.view?.name) void top.change('name', { kind: 'name', name })
}
</script>

<template>
  <section v-if="top.view && quilt.view" class="stack">
    <label class="between"><span>{{ tr('Name') }}</span><input class="text" :value="quilt.view.name" maxlength="80" data-testid="quilt-name" @change="rename" @keydown.enter="($event.target as HTMLInputElement).blur()" /></label>
    <p v-if="top.errorAt('name')" class="wrong" role="alert">{{ top.errorAt('name') }}</p>
    <div>
      <p class="label">{{ tr('What it is for') }}</p>
      <div class="chips"><v-btn v-for="use in USES" :key="use" class="chip" :aria-pressed="doc.use === use" @click="set('use', { use })">{{ tr(use) }}</v-btn></div>
    </div>
    <template v-for="field in top.view.fields.filter((one) => one.used)" :key="field.name">
      <FieldControl v-if="field.control === 'choice'" :field="field" :error="top.errorAt(field.name)" :unit="quilt.unit" :picked="{}" @set="set(field.name, { [field.name]: $event })" />
      <LengthField v-else :field="field" :error="top.errorAt(field.name)" :unit="quilt.unit" late @entered="set(field.name, { [field.name]: $event })" />
    </template>
    <FabricPick :fabrics="top.view.fabrics" :model-value="doc.backing" :label="tr('Backing')" :none="tr('not chosen')" @update:model-value="set('backing', { backing: $event })" />
    <p class="quiet">{{ tr('Batting and its limit are in Kit.') }}</p>
  </section>
</template>
