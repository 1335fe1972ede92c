<script setup lang="ts">
/** Kit: the foot, the ruler, the marking step and the batting; every sum follows from them. */
import { computed, ref, shallowRef, watch } from 'vue'
import { api, Problem, type Views } from '../../api/client'
import LengthField from '../../parts/LengthField.vue'
import StationPage from '../../parts/StationPage.vue'
import WordsText from '../../parts/WordsText.vue'
import { useQuilt } from '../../state/quilt'
import RulerPicture from './RulerPicture.vue'

type Kit = Record<string, unknown>

const quilt = useQuilt()
const view = shallowRef<Views['KitView']>()
const wrong = ref<{ field: string; message: string }>()
const list = ref('')
const lengths = computed(() => (view.value?.fields ?? []).filter((f) => f.control === 'length'))
const etched = computed(() => view.value?.fields.find((f) => f.control === 'choice'))
let typed: Kit | undefined
let asking: AbortController | undefined

/** The kit with the value at a dotted path put in its place. */
function put(kit: Kit, path: string, value: unknown): Kit {
  const [head, ...rest] = path.split('.') as [string, ...string[]]
  return { ...kit, [head]: rest.length ? put((kit[head] ?? {}) as Kit, rest.join('.'), value) : value }
}
async function ask(kit: Kit | undefined) {
  asking?.abort()
  const mine = (asking = new AbortController())
  try {
    const reckoned = api.kit(quilt.id, { kit: kit ?? null, unit: quilt.unit }, mine.signal)
    const found = await (kit ? quilt.trying(reckoned) : reckoned)
    if (mine !== asking) return
    view.value = found
    list.value = etched.value?.choices.some((c) => c.key === etched.value?.text) ? '' : (etched.value?.text ?? '')
    typed = undefined
    wrong.value = undefined
    if (kit) quilt.keep('kit', { kind: 'kit', kit: found.kit })
  } catch (error) {
    if (mine === asking && error instanceof Problem) wrong.value = { field: error.field, message: error.message }
  }
}
function set(name: string, value: unknown) {
  typed = put(typed ?? view.value?.kit ?? {}, name, value)
  void ask(typed)
}
const error = (name: string) => (wrong.value?.field.startsWith(`kit.${name}`) ? wrong.value.message : undefined)
watch(() => [quilt.taken, quilt.unit], () => quilt.view && void ask(undefined), { immediate: true })
</script>

<template>
  <StationPage v-if="view">
    <RulerPicture :kit="view" />
    <template #slip>
      <header><h2>Your foot and ruler</h2><p class="quiet">this quilt is planned with these</p></header>
      <p v-if="wrong && !view.fields.some((f) => wrong!.field.startsWith(`kit.${f.name}`))" class="card madder" role="alert">{{ wrong.message }}</p>
      <LengthField v-for="f in lengths.slice(0, 1)" :key="f.name + quilt.taken" :field="f" :error="error(f.name)" :unit="quilt.unit" big @typed="set(f.name, $event)" />
      <fieldset v-if="etched">
        <legend class="label">{{ etched.label }} of your ruler</legend>
        <div class="chips">
          <button v-for="choice in etched.choices" :key="choice.key" class="chip" :aria-pressed="etched.text === choice.key" :data-testid="`etched-${choice.key}`" @click="set(etched.name, choice.key)">{{ choice.label }}</button>
        </div>
        <input v-model="list" class="list" placeholder="or a list: 1/4, 1/2, 3/4, 1" :aria-label="`${etched.label}. ${etched.help}`" :aria-invalid="!!error(etched.name)" data-testid="field-ruler-etched" @change="list && set(etched.name, list)" />
        <p v-if="error(etched.name)" class="error" role="alert">{{ error(etched.name) }}</p>
      </fieldset>
      <div class="two"><LengthField v-for="f in lengths.slice(1)" :key="f.name + quilt.taken" :field="f" :error="error(f.name)" :unit="quilt.unit" @typed="set(f.name, $event)" /></div>
      <p class="card weld"><WordsText :words="view.sentence" /></p>
      <p class="quiet">Use a ruler foot and a ruler of the thickness that your machine's manual asks for; a thin ruler can slip under the foot and break the needle.</p>
    </template>
  </StationPage>
</template>

<style scoped>
fieldset { border: 0; padding: 0; margin: 0; }
legend { padding: 0; margin-bottom: 6px; }
.list { width: 100%; height: 38px; margin-top: 8px; padding: 0 10px; border: 1px solid var(--rule); border-radius: 8px; background: #fff; font-size: 14px; }
.two { display: grid; grid-template-columns: 1fr 1fr; gap: 12px; align-items: end; }
.error { color: var(--madder); font-size: 14px; margin-top: 5px; }
</style>
