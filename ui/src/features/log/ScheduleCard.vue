<script setup lang="ts">
/** Sewing sessions on the days available: what comes when, and whether it is finished in time; also as a calendar file. */
import { useLocalStorage } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api, type Views } from '../../api/client'
import { useAsk } from '../../state/ask'
import { useExports } from '../../state/exports'
import { useLog } from '../../state/log'
import { useQuilt } from '../../state/quilt'
import { counted, tr } from '../../texts'

const DAYS = [tr('Mon'), tr('Tue'), tr('Wed'), tr('Thu'), tr('Fri'), tr('Sat'), tr('Sun')]
const SHOWN = 5
const quilt = useQuilt()
const log = useLog()
const exports = useExports()
const today = () => new Date(Date.now() - 60_000 * new Date().getTimezoneOffset()).toISOString().slice(0, 10)
const days = useLocalStorage('kenzet-days', '135')
const minutes = useLocalStorage('kenzet-session', 60)
const at = useLocalStorage('kenzet-hour', '19:00')
const begin = ref(today())
const by = ref('')
const all = ref(false)
const view = ref<Views['ScheduleView']>()
const { ask, fault } = useAsk()
const query = computed(() => ({ days: days.value, minutes: Number(minutes.value), begin: begin.value || today(), ...(by.value ? { by: by.value } : {}), at: at.value || '19:00', unit: quilt.unit }))
const turn = (day: number) => (days.value = [...'0123456'].filter((one) => (Number(one) === day) !== days.value.includes(one)).join(''))
watch([query, () => log.view], async () => {
  const found = await ask((signal) => api.schedule(quilt.id, query.value, signal))
  if (found) view.value = found
}, { immediate: true })
</script>

<template>
  <div class="stack" data-testid="schedule">
    <div class="chips" role="group" :aria-label="tr('Days on which you sew')"><v-btn v-for="(day, k) in DAYS" :key="day" class="chip" :aria-pressed="days.includes(String(k))" :data-testid="`day-${k}`" @click="turn(k)">{{ day }}</v-btn></div>
    <div class="fields">
      <label>{{ tr('Minutes') }} <input v-model.lazy.number="minutes" type="number" min="10" max="600" data-testid="session-minutes"></label>
      <label>{{ tr('At') }} <input v-model.lazy="at" type="time"></label>
      <label>{{ tr('From') }} <input v-model.lazy="begin" type="date"></label>
      <label>{{ tr('Done by') }} <input v-model.lazy="by" type="date" data-testid="done-by"></label>
    </div>
    <p v-if="fault" class="wrong" role="alert">{{ fault.message }}</p>
    <template v-if="view">
      <p data-testid="schedule-says">{{ view.says }}</p>
      <ol>
        <li v-for="one in all ? view.sessions : view.sessions.slice(0, SHOWN)" :key="one.day + one.times" data-testid="session">
          <b>{{ one.day }}</b><small>{{ one.times }}</small>
          <span v-for="(line, k) in one.lines" :key="k">{{ line }}</span>
          <v-btn v-if="one.places.length" class="plain" :aria-label="tr('Show {day} on the quilt', { day: one.day })" @click="log.held = one.places">{{ tr('Show on the quilt') }}</v-btn>
        </li>
      </ol>
      <v-btn v-if="view.sessions.length > SHOWN" class="plain more" @click="all = !all">{{ all ? tr('Show fewer') : counted(view.sessions.length - SHOWN, 'One more session', '{count} more sessions') }}</v-btn>
      <a v-if="view.sessions.length" class="plain more" :href="exports.href('schedule-ics', { quilt: quilt.id }, query)" data-testid="schedule-ics">{{ exports.label('schedule-ics') }}</a>
    </template>
  </div>
</template>

<style scoped>
.chips { gap: 4px; }
.chip { padding: 3px 8px; }
.fields { display: grid; grid-template-columns: 1fr 1fr; gap: 8px; font-size: 14px; }
label { display: grid; gap: 2px; color: var(--soft); min-width: 0; }
input { width: 100%; border: 1px solid var(--rule); border-radius: 8px; padding: 4px 8px; background: var(--field); color: var(--ink); font: inherit; }
p { margin: 0; font-size: 14px; }
ol { list-style: none; margin: 0; padding: 0; display: grid; gap: 8px; font-size: 14px; }
li { display: grid; gap: 1px; border-left: 3px solid var(--rule); padding-left: 10px; justify-items: start; }
small { color: var(--soft); font-size: 13px; }
.more { justify-self: start; }
</style>
