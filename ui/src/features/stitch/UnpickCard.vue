<script setup lang="ts">
/** Unpicked lines: they are to be sewn again. */
import { computed, ref } from 'vue'
import type { Views } from '../../api/client'
import WordsText from '../../parts/WordsText.vue'
import { doneLines, event, type Step, type Told } from '../../sewing/machine'
import { tr } from '../../texts'

const props = defineProps<{ here: Views['SewHere']; done: readonly Step[] }>()
const emit = defineEmits<{ tell: [event: Told]; close: [] }>()
const out = ref<number[]>([])
const lines = computed(() => doneLines(props.here, props.done))
const flip = (k: number) => (out.value = out.value.includes(k) ? out.value.filter((one) => one !== k) : [...out.value, k])
function told() {
  emit('tell', event('unpicked', { place: props.here.place, at: lines.value[0]!.at, taken_out: out.value.flatMap((k) => lines.value[k]!.sewn) }))
}
</script>

<template>
  <section class="asks" :aria-label="tr('Unpicked')">
    <h2>{{ tr('Which lines did you unpick?') }}</h2>
    <p v-if="!lines.length" class="say">{{ tr('Nothing is sewn here yet.') }}</p>
    <ul v-else>
      <li v-for="(line, k) in lines" :key="k"><v-btn class="chip" :aria-pressed="out.includes(k)" :data-testid="`out-${k}`" @click="flip(k)"><WordsText :words="line.words" />{{ k ? '' : tr(', the last one') }}</v-btn></li>
    </ul>
    <button class="tell" :disabled="!out.length" data-testid="unpick-tell" @click="told">{{ out.length > 1 ? tr('Sew these {out} again', { out: out.length }) : tr('Sew it again') }}</button>
    <v-btn class="plain" @click="$emit('close')">{{ tr('Cancel') }}</v-btn>
    <p class="quiet">{{ tr('Unpick with the quilt flat and the blade away from your hand.') }}</p>
  </section>
</template>

<style scoped>
.asks { display: grid; gap: 14px; }
.say { font-size: 20px; }
h2 { font-size: 30px; }
ul { display: grid; gap: 7px; list-style: none; }
.chip { min-height: 44px; width: 100%; font-size: 16px; }
.tell { min-height: 64px; border: 0; border-radius: 14px; background: var(--madder-fill); color: #fff; font-size: 23px; font-weight: 700; cursor: pointer; }
.tell:disabled { opacity: .5; }
.plain { justify-self: start; min-height: 44px; font-size: 16px; }
</style>
