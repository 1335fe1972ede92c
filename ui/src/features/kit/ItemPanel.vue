<script setup lang="ts">
/** One item: its numbers, whether it is at hand; for a foot the test strip. */
import { computed, ref, watch } from 'vue'
import FieldControl from '../../parts/FieldControl.vue'
import WordsText from '../../parts/WordsText.vue'
import { useKit } from '../../state/kit'
import { useQuilt } from '../../state/quilt'
import StripCard from './StripCard.vue'
import { tr } from '../../texts'

const emit = defineEmits<{ makes: [] }>()
const kit = useKit()
const quilt = useQuilt()
const sure = ref(false)
watch(() => kit.key, () => (sure.value = false))

const fields = computed(() => (kit.thing?.fields ?? []).filter((f) => f.used))
const first = computed(() => fields.value.filter((f) => !f.minor))
const minor = computed(() => fields.value.filter((f) => f.minor))
const error = (name: string) => (kit.wrong?.field === name ? kit.wrong.message : undefined)
const loose = computed(() => (kit.wrong && !fields.value.some((f) => f.name === kit.wrong!.field) && kit.wrong.field !== 'name' ? kit.wrong.message : ''))
const list = ref('')
const etched = (text: string) => { if (text.trim()) kit.set('etched', text) }
const scale = computed(() => fields.value.find((f) => f.name === 'etched'))
watch(scale, (now) => { list.value = now && !now.choices.some((c) => c.key === now.text) ? now.text : '' }, { immediate: true })
const fault = computed(() => kit.view?.rulers.find((ruler) => ruler.key === kit.key)?.fault ?? '')
const sews = computed(() => kit.view?.rulers.find((ruler) => ruler.key === kit.key)?.sews ?? [])
const makes = computed(() => kit.thing?.kind === 'ruler foot' || !!kit.view?.rulers.find((ruler) => ruler.key === kit.key && ruler.makes.length))
</script>

<template>
  <section v-if="kit.thing" class="stack">
    <header>
      <div class="between"><h2>{{ kit.thing.name }}</h2><v-btn class="plain" data-testid="whole-kit" @click="kit.settle().then(() => kit.choose(''))">{{ tr('All tools') }}</v-btn></div>
      <p class="quiet">{{ kit.thing.label }}</p>
    </header>
    <label class="between"><span class="label">{{ tr('Name') }}</span><input class="text" :value="kit.thing.name" maxlength="80" data-testid="thing-name" :aria-invalid="!!error('name')" @input="kit.set('name', ($event.target as HTMLInputElement).value)" /></label>
    <p v-if="error('name')" class="card madder" role="alert">{{ error('name') }}</p>
    <p v-if="loose" class="card madder" role="alert">{{ loose }}</p>
    <p v-if="fault" class="card madder" role="alert" data-testid="fault">{{ fault }}</p>
    <div class="fields">
      <FieldControl v-for="field in first" :key="kit.key + field.name" :field="field" :error="error(field.name)" :unit="quilt.unit" :picked="{}" @set="kit.set(field.name, $event)" />
      <input v-if="scale" v-model="list" class="text wide" :placeholder="tr('or a list: 1/4, 1/2, 3/4, 1')" :aria-label="tr('Etched lines as a list')" data-testid="etched-list" @change="etched(list)" />
    </div>
    <p v-if="sews.length" class="card weld" data-testid="sews"><WordsText :words="sews" /></p>
    <StripCard v-if="kit.thing.kind === 'ruler foot'" :key="kit.key" />
    <v-btn v-if="makes" class="chip makes" data-testid="see-makes" @click="emit('makes')">{{ tr('See what each mark makes') }}</v-btn>
    <div class="fields">
      <FieldControl v-for="field in minor" :key="kit.key + field.name" :field="field" :error="error(field.name)" :unit="quilt.unit" :picked="{}" @set="kit.set(field.name, $event)" />
    </div>
    <table v-if="kit.thing.history.length" class="past">
      <caption class="label">{{ tr('Before:') }}</caption>
      <tr v-for="(past, k) in kit.thing.history" :key="k"><td>{{ past.words.map((w) => (typeof w === 'string' ? w : `${w.text} ${w.unit}`)).join('') }}</td><td>{{ tr('until {until}', { until: past.until }) }}</td><td class="quiet">{{ past.how }}</td></tr>
    </table>
    <p v-if="sure">{{ tr('Delete this item for good?') }} <v-btn class="plain" data-testid="remove-sure" @click="kit.remove(kit.key)">{{ tr('Delete it') }}</v-btn> <v-btn class="plain" @click="sure = false">{{ tr('No') }}</v-btn></p>
    <v-btn v-else class="plain" data-testid="remove-thing" @click="sure = true">{{ tr('Delete this item …') }}</v-btn>
  </section>
</template>

<style scoped>
.fields { display: grid; grid-template-columns: 1fr 1fr; gap: 12px; align-items: end; }
.fields > :deep(fieldset), .wide { grid-column: 1 / -1; }
.fields > :deep(.half) { grid-column: auto; }
.makes { justify-self: start; }
.past { width: 100%; font-size: 13px; border-collapse: collapse; }
.past caption { text-align: left; margin-bottom: 3px; }
.past td { border-top: 1px dashed var(--rule); padding: 3px 6px 3px 0; }
</style>
