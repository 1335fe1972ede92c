<script setup lang="ts">
/** A block from an SVG or DXF file: shown first with its repairs, and added only on request. */
import { computed, ref } from 'vue'
import { api, Problem, type Views, type Change } from '../../api/client'
import WordsText from '../../parts/WordsText.vue'
import { useQuilt } from '../../state/quilt'
import PatchPicture from '../../parts/PatchPicture.vue'
import { counted, tr } from '../../texts'

const emit = defineEmits<{ bring: [change: Change] }>()
const quilt = useQuilt()
const file = ref<File>()
const width = ref('')
const found = ref<Views['BroughtView']>()
const wrong = ref<{ field: string; message: string }>()
const wrongWidth = computed(() => (wrong.value?.field === 'width' ? wrong.value.message : ''))

async function read() {
  if (!file.value) return
  try {
    found.value = await api.readDrawing(file.value, width.value, quilt.unit)
    wrong.value = undefined
  } catch (error) {
    if (!(error instanceof Problem)) throw error
    wrong.value = { field: error.field, message: error.message }
    if (error.field !== 'width') found.value = undefined
  }
}
function chosen(event: Event) {
  const input = event.target as HTMLInputElement
  file.value = input.files?.[0]
  input.value = ''
  width.value = ''
  void read()
}
</script>

<template>
  <div class="bring">
    <div class="between"><span class="label">{{ tr('Or import a block') }}</span><label class="chip">{{ tr('SVG or DXF file …') }}<input type="file" accept=".svg,.dxf,image/svg+xml" class="sr" data-testid="bring-file" @change="chosen" /></label></div>
    <p v-if="wrong && !wrongWidth" class="card madder" role="alert">{{ file?.name }}: {{ wrong.message }}</p>
    <template v-if="found || wrongWidth">
      <div v-if="found" class="seen">
        <PatchPicture :patches="found.patches" :width="found.width" :height="found.height" :colours="found.fabrics" :size="120" />
        <p><b>{{ found.name }}</b><br /><WordsText :words="found.size" /><br />{{ counted(found.patches.length, '{count} patch', '{count} patches') }}</p>
      </div>
      <label class="between"><span>{{ tr('Block width') }}</span><input v-model="width" class="text short" :placeholder="tr('true size')" data-testid="bring-width" @change="read()" /></label>
      <p v-if="wrongWidth" class="wrong" role="alert">{{ wrongWidth }}</p>
      <p v-for="line in found?.said" :key="line" class="card tip">{{ line }}</p>
      <v-btn v-if="found && !wrong" color="primary" variant="flat" data-testid="bring-keep" @click="emit('bring', found.change)">{{ tr('Keep this block') }}</v-btn>
    </template>
  </div>
</template>

<style scoped>
.bring { display: grid; gap: 9px; border-top: 1px dashed var(--rule); padding-top: 10px; }
.seen { display: flex; gap: 14px; align-items: center; }
.short { width: 110px; }
</style>
