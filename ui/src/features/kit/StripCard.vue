<script setup lang="ts">
/** A test strip of lines, each sewn with the ruler's edge on the line before, gives the foot's offset. */
import { ref } from 'vue'
import { Problem, type Views } from '../../api/client'
import { useKit } from '../../state/kit'
import ToldText from '../../parts/ToldText.vue'
import { tr, whole } from '../../texts'

const kit = useKit()
const open = ref(false)
const lines = ref(9)
const span = ref('')
const found = ref<Views['ThingView']>()
const wrong = ref<{ field: string; message: string }>()
let asked = 0

async function read(keep: boolean) {
  const mine = (asked += 1)
  if (!span.value.trim()) return void (found.value = undefined)
  const answer = await kit.strip({ span: span.value, lines: Number(lines.value) || 0, side: side.value, keep })
  if (mine !== asked) return
  wrong.value = answer instanceof Problem ? answer : undefined
  found.value = answer instanceof Problem ? undefined : answer
  if (keep && found.value) {
    open.value = false
    span.value = ''
    found.value = undefined
  }
}
const tells = (thing: Views['ThingView']) => String((thing.thing as Record<string, unknown>)[side.value] ?? '')
const SIDES = [['offset', tr('any side')], ['left', tr('at its left')], ['right', tr('at its right')], ['front', tr('before it')], ['back', tr('behind it')]] as const
const side = ref<(typeof SIDES)[number][0]>('offset')
</script>

<template>
  <v-btn v-if="!open" class="chip" data-testid="strip" @click="open = true">{{ tr('Measure the foot with a test strip …') }}</v-btn>
  <div v-else class="card leaf strip">
    <p><ToldText :text="whole('Sew {count} lines, each with the ruler’s {edge} on the line before. Measure from the first to the last.')"><template #count>{{ lines }}</template><template #edge><b>{{ tr('edge') }}</b></template></ToldText></p>
    <div class="two">
      <label class="label">{{ tr('Lines') }}<input v-model.number="lines" class="text" type="number" min="2" max="60" data-testid="strip-lines" @input="read(false)" /></label>
      <label class="label">{{ tr('First to last') }}<input v-model="span" class="text" data-testid="strip-span" :aria-invalid="wrong?.field === 'span'" @input="read(false)" /></label>
    </div>
    <div class="chips" role="group" :aria-label="tr('Where the ruler lay')"><v-btn v-for="[key, label] in SIDES" :key="key" class="chip" :aria-pressed="side === key" :data-testid="`strip-${key}`" @click="((side = key), read(false))">{{ label }}</v-btn></div>
    <p v-if="side !== 'offset'" class="quiet">{{ tr('Your plans place the ruler away from the machine’s body, so that side counts.') }}</p>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong.message }}</p>
    <p v-if="found" role="status">{{ tr('Needle to rim:') }} <b data-testid="strip-tells">{{ tells(found) }}</b></p>
    <div class="chips">
      <v-btn v-if="found" color="primary" variant="flat" data-testid="strip-keep" @click="read(true)">{{ tr('Use this offset from now on') }}</v-btn>
      <v-btn class="plain" @click="open = false">{{ tr('Cancel') }}</v-btn>
    </div>
  </div>
</template>

<style scoped>
.strip { display: grid; gap: 8px; }
.two { display: grid; grid-template-columns: 1fr 1fr; gap: 10px; }
.two label { display: grid; gap: 3px; }
</style>
