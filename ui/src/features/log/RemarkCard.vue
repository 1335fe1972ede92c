<script setup lang="ts">
/** Remarks on a block or a sitting: a verdict, notes, pictures. All are optional. */
import { computed, ref } from 'vue'
import { api } from '../../api/client'
import { useLog } from '../../state/log'
import { tr } from '../../texts'

const VERDICTS = [['keep', tr('Keep')], ['touch up', tr('Touch up')], ['rip', tr('Sew again')]] as const
const props = defineProps<{ about: string; verdicts?: boolean }>()
const log = useLog()
const note = ref('')
const mine = computed(() => log.remarks(props.about))
const said = computed(() => mine.value.filter((one) => one.kind === 'note' || one.kind === 'photo'))
const verdict = computed(() => mine.value.find((one) => one.kind === 'verdict'))
async function judge(told: string) {
  if (verdict.value?.told === told) await log.strike(verdict.value.id)
  else await log.say(props.about, 'verdict', told)
}
async function keep() {
  const told = note.value.trim()
  if (told && (await log.say(props.about, 'note', told))) note.value = ''
}
async function picture(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (file) await log.addPicture(props.about, file)
}
</script>

<template>
  <div class="remarks">
    <div v-if="verdicts" class="chips" role="group" :aria-label="tr('Verdict')">
      <span class="says">{{ tr('Your verdict:') }}</span>
      <v-btn v-for="[key, label] in VERDICTS" :key="key" class="chip" :aria-pressed="verdict?.told === key" :data-testid="`verdict-${key.replace(' ', '-')}`" @click="judge(key)">{{ label }}</v-btn>
    </div>
    <ul v-if="said.length">
      <li v-for="one in said" :key="one.id">
        <img v-if="one.kind === 'photo'" :src="api.photoUrl(one.told)" :alt="tr('Your picture')">
        <p v-else>{{ one.told }}</p>
        <small>{{ one.when }} <v-btn class="plain" :aria-label="tr('Strike out this {kind}', { kind: one.kind })" @click="log.strike(one.id)">{{ tr('Strike out') }}</v-btn></small>
      </li>
    </ul>
    <form @submit.prevent="keep()">
      <textarea v-model="note" rows="2" maxlength="2000" :placeholder="tr('A note: tension, needle, what to do better')" :aria-label="tr('A note')" :data-testid="`note-${about}`" />
      <div class="chips">
        <v-btn class="chip" type="submit" :disabled="!note.trim()" data-testid="keep-note">{{ tr('Keep the note') }}</v-btn>
        <label class="chip">{{ tr('Add a picture') }}<input type="file" accept="image/jpeg,image/png" class="sr" @change="picture" /></label>
      </div>
    </form>
    <p v-if="log.wrong && ['remark', 'told', 'file'].includes(log.wrong.field)" class="wrong" role="alert">{{ log.wrong.message }}</p>
  </div>
</template>

<style scoped>
.remarks { display: grid; gap: 8px; }
ul { list-style: none; margin: 0; padding: 0; display: grid; gap: 6px; font-size: 14px; }
li { border-left: 3px solid var(--rule); padding-left: 10px; }
p { margin: 0; overflow-wrap: anywhere; }
small { color: var(--soft); font-size: 13px; }
img { max-width: 100%; max-height: 140px; border-radius: 6px; }
.says { align-self: center; font-size: 14px; color: var(--soft); }
form { display: grid; gap: 6px; }
textarea { width: 100%; border: 1px solid var(--rule); border-radius: 8px; padding: 6px 10px; background: var(--field); color: inherit; font: inherit; font-size: 14px; resize: vertical; }
label.chip { display: inline-flex; align-items: center; cursor: pointer; }
</style>
