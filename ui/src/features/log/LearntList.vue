<script setup lang="ts">
/** Learnt values beside those in use: one click uses them, for this quilt or for the tool itself; nothing changes without it. */
import { ref } from 'vue'
import { api, Problem, type Views } from '../../api/client'
import { useKit } from '../../state/kit'
import { useLog } from '../../state/log'
import { useQuilt } from '../../state/quilt'
import { tr } from '../../texts'

defineProps<{ rows: Views['LearntRow'][] }>()
const quilt = useQuilt()
const kit = useKit()
const log = useLog()
const busy = ref(false)
const said = ref('')
const wrong = ref('')

async function take(row: Views['LearntRow'], inventory: boolean) {
  busy.value = true
  said.value = wrong.value = ''
  try {
    const change = row.change as { kit?: { values: Record<string, unknown> }; stitching?: Record<string, unknown> }
    if (inventory && row.thing) await api.keepThing({ key: row.thing_key, thing: row.thing as never, unit: quilt.unit })
    if (change.kit && !(await kit.change(change.kit as never))) {
      wrong.value = kit.wrong?.message ?? kit.refused
      return
    }
    if (change.kit) kit.wrong = undefined
    else if (change.stitching) await quilt.make(() => ({ kind: 'stitching', stitching: change.stitching }) as never)
    said.value = tr('{name}: now {row}{inventory}.', { name: row.name, row: row.value, inventory: inventory ? tr(', and in your tools') : tr(' for this quilt') })
    await log.look()
  } catch (error) {
    if (!(error instanceof Problem)) throw error
    wrong.value = error.message
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <div class="learnt">
    <p v-if="!rows.length" class="quiet">{{ tr('Sew at the machine screen and measure blocks from photos. From six lines on, your pace, your foot’s offset and how far your lines vary are worked out here.') }}</p>
    <p v-if="said" class="card leaf" role="status">{{ tr('{said} Undo takes it back.', { said }) }}</p>
    <p v-if="wrong" class="card madder" role="alert">{{ wrong }}</p>
    <article v-for="row in rows" :key="row.key" :class="{ differs: row.differs }" :data-testid="`learnt-${row.key}`">
      <b>{{ row.name }}</b>
      <p><strong>{{ row.value }}</strong> <span>({{ row.range }})</span></p>
      <p class="quiet">{{ tr('In use: {used}. {evidence}: {sure}.', { used: row.used, evidence: row.evidence, sure: tr(row.sure) }) }}</p>
      <div v-if="row.differs" class="chips">
        <v-btn class="chip offer" :disabled="busy" :data-testid="`take-${row.key}`" @click="take(row, false)">{{ tr('Use for this quilt') }}</v-btn>
        <v-btn v-if="row.thing && row.thing_key" class="chip" :disabled="busy" :data-testid="`keep-${row.key}`" @click="take(row, true)">{{ tr('And in your tools') }}</v-btn>
      </div>
    </article>
  </div>
</template>

<style scoped>
.learnt { display: grid; gap: 10px; }
article { display: grid; gap: 3px; border-left: 3px solid var(--rule); padding-left: 10px; font-size: 14px; }
.differs { border-left-color: var(--leaf); }
p { margin: 0; }
span { color: var(--soft); }
</style>
