<script setup lang="ts">
/** Six short first steps on real work: each is completed by doing it, and all can be skipped. */
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { useZone } from '../../state/zone'
import { STEPS, useTour } from './tour'
import { tr } from '../../texts'

const emit = defineEmits<{ end: [] }>()
const tour = useTour()
const route = useRoute()
const zone = useZone()
const number = computed(() => tour.value)
const step = computed(() => STEPS[number.value - 1])
/** fill and spacing when the step began */
const before = ref('')
const fill = computed(() => zone.plan?.fill as { kind?: string; spacing?: string } | null | undefined)
const now = computed(() => (number.value === 2 ? fill.value?.kind : fill.value?.spacing) ?? '')
watch(number, () => (before.value = now.value), { immediate: true })
const done = computed(() => {
  switch (number.value) {
    case 1: return !!zone.plan
    case 2: case 3: return !!before.value && !!now.value && before.value !== now.value
    case 4: return !!zone.ruler
    case 5: return route.name === 'marks'
    case 6: return route.name === 'machine'
    default: return false
  }
})
watch(done, (is) => { if (is) on() }, { immediate: true })
watch(() => zone.key, () => (before.value = ''))
watch(now, (is) => (before.value ||= is))
function on() {
  if (number.value >= STEPS.length) return emit('end')
  tour.value += 1
}
</script>

<template>
  <section v-if="step" class="first" :aria-label="tr('The first steps')" data-testid="tour">
    <p class="quiet">{{ tr('Step {number} of {steps}', { number, steps: STEPS.length }) }}</p>
    <p role="status">{{ step.says }}</p>
    <div class="chips">
      <v-btn class="chip" data-testid="tour-on" @click="on()">{{ number < STEPS.length ? tr('Next') : tr('Done') }}</v-btn>
      <v-btn class="plain" data-testid="tour-leave" @click="emit('end')">{{ tr('Leave the first steps') }}</v-btn>
    </div>
  </section>
</template>

<style scoped>
.first { position: fixed; left: 140px; bottom: 118px; z-index: 15; width: 340px; max-width: calc(100vw - 24px); padding: 12px 16px; display: grid; gap: 8px; background: var(--paper); color: var(--ink); border: 2px solid var(--indigo); border-radius: 12px; box-shadow: 0 6px 20px rgb(30 39 51 / .25); }
@media (max-width: 900px) { .first { left: 12px; top: 60px; bottom: auto; } }
</style>
