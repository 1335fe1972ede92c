<script setup lang="ts">
/** The frame: header, stations, the current station, the tally, and keys that work everywhere. */
import { useEventListener } from '@vueuse/core'
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api } from './api/client'
import AppHeader from './features/shell/AppHeader.vue'
import FirstSteps from './features/shell/FirstSteps.vue'
import KeyHelp from './features/shell/KeyHelp.vue'
import StationNav from './features/shell/StationNav.vue'
import TallyBar from './parts/TallyBar.vue'
import { STATIONS } from './features/shell/stations'
import { useTour } from './features/shell/tour'
import { usePressed } from './parts/pressed'
import { useQuilt } from './state/quilt'
import { useZone } from './state/zone'
import { tr } from './texts'

const route = useRoute()
const router = useRouter()
const quilt = useQuilt()
const zone = useZone()
/** loaded when it is first opened */
const GuideHelp = defineAsyncComponent(() => import('./features/shell/GuideHelp.vue'))
const help = ref(false)
const guide = ref(false)
const guided = ref(false)
watch(guide, () => (guided.value = true))
const lost = computed(() => inQuilt.value && !!quilt.trouble && !quilt.view)
const inQuilt = computed(() => typeof route.params.quilt === 'string' && !!route.params.quilt)

/** The quilt is known from the address before its station is loaded, so it is requested meanwhile. */
const bound = computed(() => (route.matched.length ? route : router.resolve(window.location.pathname)))
watch(
  () => bound.value.params.quilt,
  async (id) => {
    if (typeof id !== 'string' || !id || id === quilt.id) return
    await zone.choose('')
    await quilt.open(id, bound.value.name === 'machine')
  },
  { immediate: true },
)
watch(() => quilt.read, () => void zone.again())

function keys(event: KeyboardEvent) {
  const target = event.target as HTMLElement
  if (target.tagName === 'INPUT' || target.tagName === 'TEXTAREA' || event.metaKey || event.altKey) return
  if (event.key === '?') help.value = !help.value
  else if (event.key === 'z' || (event.ctrlKey && event.key === 'z')) void quilt.walk('undo')
  else if (event.key === 'Z' || event.key === 'y') void quilt.walk('redo')
  else if (/^[1-7]$/.test(event.key)) go(Number(event.key))
  else return
  event.preventDefault()
}
function go(number: number) {
  const station = STATIONS.find((s) => s.number === number)
  if (station && inQuilt.value) void router.push({ name: station.name, params: { quilt: quilt.id } })
}
const tour = useTour()
const touring = computed(() => tour.value > 0 && inQuilt.value && !!quilt.view)
/** Opens a station of the current quilt, or of the first one. */
async function startTour() {
  guide.value = false
  tour.value = 1
  const id = inQuilt.value ? quilt.id : (await api.home()).quilts.find((one) => !one.put_away && one.zones)?.id
  if (id) await router.push({ name: 'fills', params: { quilt: id } })
}
const endTour = () => (tour.value = -1)
usePressed(keys)
useEventListener('pagehide', () => void quilt.flush())
</script>

<template>
  <v-app>
    <div class="frame">
      <AppHeader @help="guide = true" />
      <StationNav v-if="inQuilt && !lost" class="nav" :class="{ away: route.meta.alone }" />
      <main class="station" :class="{ alone: !inQuilt || lost }">
        <section v-if="lost" class="lost" role="alert">
          <h2>{{ quilt.trouble }}</h2>
          <v-btn color="primary" variant="flat" @click="router.push('/')">{{ tr('Back to your quilts') }}</v-btn>
        </section>
        <router-view v-else-if="!inQuilt || quilt.id === route.params.quilt" />
      </main>
      <TallyBar v-if="inQuilt && quilt.view && !route.meta.alone" class="tally" />
    </div>
    <p v-if="quilt.trouble && !lost" class="trouble" role="alert">
      {{ quilt.trouble }}
      <v-btn class="plain" @click="quilt.trouble = ''">{{ tr('Dismiss') }}</v-btn>
    </p>
    <KeyHelp v-model="help" />
    <GuideHelp v-if="guide || guided" v-model="guide" @keys="[guide, help] = [false, true]" @tour="startTour()" />
    <FirstSteps v-if="touring" @end="endTour()" />
  </v-app>
</template>

<style scoped>
.frame { display: grid; height: 100vh; height: 100dvh; width: 100vw; grid-template: 56px minmax(0, 1fr) auto / 92px minmax(0, 1fr); grid-template-areas: 'head head' 'nav station' 'tally tally'; }
.frame > :first-child { grid-area: head; }
.nav { grid-area: nav; }
.station { grid-area: station; min-width: 0; min-height: 0; }
.station.alone { grid-column: 1 / -1; overflow: auto; }
.lost { max-width: 560px; margin: 90px auto; padding: 0 24px; display: grid; gap: 18px; justify-items: start; }
.tally { grid-area: tally; }
@media (max-width: 900px) {
  .frame { grid-template: 52px minmax(0, 1fr) auto auto / minmax(0, 1fr); grid-template-areas: 'head' 'station' 'tally' 'nav'; }
  .nav.away { display: none; }
  .trouble { left: 8px; right: 8px; transform: none; }
}
@media (max-width: 600px) { .tally { display: none; } }
.trouble { position: fixed; left: 50%; top: 64px; transform: translateX(-50%); max-width: 620px; z-index: 20; background: var(--madder-wash); border: 1px solid var(--madder); border-radius: 10px; padding: 8px 16px; font-size: 14px; }
</style>
