<script setup lang="ts">
/** Where the thread broke: on this line, or some lines back if a bobbin ran out unnoticed. */
import { computed, onMounted, ref, watch } from 'vue'
import type { Views } from '../../api/client'
import WordsText from '../../parts/WordsText.vue'
import { doneLines, event, lineLength, sewnUntil, type Step, type Told } from '../../sewing/machine'
import ToldText from '../../parts/ToldText.vue'
import { tr, whole } from '../../texts'

const props = defineProps<{ here: Views['SewHere']; step?: Step; done: readonly Step[] }>()
const emit = defineEmits<{ at: [at: number[] | undefined]; tell: [event: Told]; close: [] }>()

/** 0 is the present line, 1 the one before it, … */
const back = ref(0)
const share = ref(50)
const lines = computed(() => doneLines(props.here, props.done))
const chosen = computed(() => (back.value ? lines.value[back.value - 1] : undefined))
const until = computed(() => (props.step?.kind === 'line' && !back.value ? sewnUntil(props.step, (share.value / 100) * lineLength(props.step)) : undefined))
const at = computed(() => (back.value ? chosen.value?.at : until.value?.at))
watch(at, (now) => emit('at', now), { immediate: true })
onMounted(() => {
  if (props.step?.kind !== 'line') back.value = 1
})
function told() {
  const { place } = props.here
  if (!at.value) return emit('close')
  if (!back.value) return emit('tell', event('broke', { place, at: at.value, sewn: until.value!.sewn, length_mm: (share.value / 100) * lineLength(props.step!) }))
  // lines sewn after the break have no thread
  emit('tell', event('broke', { place, at: at.value, taken_out: lines.value.slice(0, back.value - 1).flatMap((one) => one.sewn) }))
}
</script>

<template>
  <section class="asks" :aria-label="tr('Thread broke')">
    <h2>{{ tr('Where is your last good stitch?') }}</h2>
    <template v-if="!back">
      <p class="say">{{ tr('Drag the cross along this line.') }}</p>
      <input v-model.number="share" type="range" min="0" max="100" step="1" :aria-label="tr('How far along this line')" data-testid="broke-share" />
    </template>
    <p v-else-if="chosen" class="say"><ToldText :text="whole('At the end of {line}. You sew everything after it again.')"><template #line><WordsText :words="chosen.words" /></template></ToldText></p>
    <p v-else class="say">{{ tr('Nothing is sewn here yet.') }}</p>
    <div class="chips">
      <v-btn class="chip" :disabled="back >= lines.length" data-testid="broke-earlier" @click="back += 1">{{ tr('One line back') }}</v-btn>
      <v-btn class="chip" :disabled="!back || (back === 1 && step?.kind !== 'line')" @click="back -= 1">{{ tr('One line on') }}</v-btn>
    </div>
    <button class="tell" :disabled="!at" data-testid="broke-tell" @click="told">{{ tr('Start from there') }}</button>
    <v-btn class="plain" data-testid="broke-close" @click="$emit('close')">{{ tr('Cancel: the thread did not break') }}</v-btn>
    <p class="quiet">{{ tr('Pull both ends to the back and tie them. Start again over the last few stitches.') }}</p>
  </section>
</template>

<style scoped>
.asks { display: grid; gap: 14px; }
.say { font-size: 20px; }
h2 { font-size: 30px; }
input { width: 100%; height: 44px; accent-color: var(--madder); }
.chip { min-height: 44px; }
.tell { min-height: 64px; border: 0; border-radius: 14px; background: var(--madder-fill); color: #fff; font-size: 23px; font-weight: 700; cursor: pointer; }
.tell:disabled { opacity: .5; }
.plain { justify-self: start; min-height: 44px; font-size: 16px; }
</style>
