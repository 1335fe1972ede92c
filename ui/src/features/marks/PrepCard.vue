<script setup lang="ts">
/** From the pressed top to the basted quilt, in the order of the chosen school. */
import { onMounted, shallowRef, watch } from 'vue'
import { api, Problem, type Views } from '../../api/client'
import { useQuilt } from '../../state/quilt'
import { tr } from '../../texts'

const quilt = useQuilt()
const prep = shallowRef<Views['PrepView']>()
const trouble = shallowRef('')
const LAYERED = [['after marking', tr('mark first, then layer')], ['before marking', tr('layer first, then mark')]] as const
const BASTED = [['pins', tr('pins')], ['thread', tr('thread')], ['spray glue', tr('spray glue')]] as const

async function ask() {
  try {
    prep.value = await api.prep(quilt.id)
    trouble.value = ''
  } catch (error) {
    if (error instanceof Problem) trouble.value = error.message
  }
}
async function keep(values: Partial<Views['PrepView']>) {
  if (!prep.value) return
  const { layered, basted } = { ...prep.value, ...values }
  prep.value = { ...prep.value, ...values }
  await quilt.set({ kind: 'layers', layered, basted })
}
onMounted(ask)
watch(() => quilt.taken, () => void ask())
</script>

<template>
  <section v-if="prep" class="prep" data-testid="prep">
    <p class="label">{{ tr('Before you sew') }}</p>
    <div class="chips" role="group" :aria-label="tr('When it is layered')">
      <v-btn v-for="[key, label] in LAYERED" :key="key" class="chip" :aria-pressed="prep.layered === key" :data-testid="`layered-${key.split(' ')[0]}`" @click="keep({ layered: key })">{{ label }}</v-btn>
    </div>
    <div class="chips" role="group" :aria-label="tr('How the layers are held')">
      <span class="quiet">{{ tr('held by') }}</span>
      <v-btn v-for="[key, label] in BASTED" :key="key" class="chip" :aria-pressed="prep.basted === key" :data-testid="`basted-${key.split(' ')[0]}`" @click="keep({ basted: key })">{{ label }}</v-btn>
    </div>
    <ol><li v-for="step in prep.steps" :key="step">{{ step }}</li></ol>
  </section>
  <p v-if="trouble" class="card madder" role="alert">{{ trouble }}</p>
</template>

<style scoped>
.prep { display: grid; gap: 8px; }
.chips { align-items: center; }
ol { padding-left: 1.3em; display: grid; gap: 5px; font-size: 15px; line-height: 1.4; }
</style>
