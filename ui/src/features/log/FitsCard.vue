<script setup lang="ts">
/** Whole blocks that fit into the minutes available now. */
import { ref, watch } from 'vue'
import { useLocalStorage } from '@vueuse/core'
import { api, Problem, type Views } from '../../api/client'
import { useLog } from '../../state/log'
import { useQuilt } from '../../state/quilt'
import { tr } from '../../texts'

const quilt = useQuilt()
const log = useLog()
const minutes = useLocalStorage('kenzet-minutes', 40)
const found = ref<Views['FitsView']>()
const wrong = ref('')
async function ask() {
  if (!quilt.id || !minutes.value) return
  try {
    found.value = await api.whatFits(quilt.id, Math.round(Number(minutes.value)), quilt.unit)
    wrong.value = ''
  } catch (error) {
    if (!(error instanceof Problem)) throw error
    wrong.value = tr('Between 1 and 600 minutes.')
  }
}
watch(() => [minutes.value, log.view], () => void ask(), { immediate: true })
</script>

<template>
  <div class="card tip" data-testid="fits">
    <label>{{ tr('I have') }} <input v-model.lazy.number="minutes" type="number" min="1" max="600" data-testid="fits-minutes"> {{ tr('minutes now') }}</label>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <p v-else-if="found">{{ found.says }}</p>
  </div>
</template>

<style scoped>
.card { display: grid; gap: 4px; padding: 8px 14px; }
p { margin: 0; }
input { width: 64px; border: 1px solid var(--rule); border-radius: 8px; padding: 2px 6px; background: var(--field); color: inherit; font: inherit; }
</style>
