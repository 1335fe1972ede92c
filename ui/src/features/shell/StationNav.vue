<script setup lang="ts">
/** The stations along a running stitch, red as far as the work has come. */
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { useQuilt } from '../../state/quilt'
import { STATIONS } from './stations'
import { tr } from '../../texts'

const route = useRoute()
const quilt = useQuilt()
const now = computed(() => STATIONS.findIndex((s) => s.name === (route.meta.station ?? route.name)))
</script>

<template>
  <nav :aria-label="tr('Stations')">
    <template v-for="(station, k) in STATIONS" :key="station.name">
      <svg v-if="k" width="6" height="38" aria-hidden="true"><path d="M3 0V38" :stroke="k <= now ? '#a8392c' : '#cfc4a9'" stroke-width="4" stroke-dasharray="10 7" stroke-linecap="butt" /></svg>
      <router-link :to="{ name: station.name, params: { quilt: quilt.id || 'x' } }" :title="`${station.does} (${station.number})`" :class="{ now: k === now, been: k < now }" :aria-current="k === now ? 'page' : undefined">
        <b>{{ station.number }}</b><span>{{ station.label }}</span>
      </router-link>
    </template>
  </nav>
</template>

<style scoped>
nav { background: var(--paper); border-right: 1px solid var(--rule); display: flex; flex-direction: column; align-items: center; padding-top: 34px; }
a { display: grid; justify-items: center; gap: 6px; text-decoration: none; color: var(--soft); font-size: 14px; width: 78px; padding: 5px 0; border-radius: 10px; }
b { width: 30px; height: 30px; border: 2px solid #a79c83; border-radius: 50%; display: grid; place-items: center; font-size: 14px; background: var(--field); }
a:hover b { border-color: var(--indigo); }
.been b { border-color: var(--madder); color: var(--madder); }
.now { color: var(--indigo); font-weight: 700; }
.now b { background: var(--indigo-fill); border-color: var(--indigo); color: #fff; width: 36px; height: 36px; }
svg { margin: 3px 0; }
@media (max-width: 900px) {
  nav { flex-direction: row; justify-content: space-around; border-right: 0; border-top: 1px solid var(--rule); padding: 4px 6px calc(4px + env(safe-area-inset-bottom)); }
  nav > svg { display: none; }
  a { width: auto; min-width: 56px; min-height: 52px; gap: 2px; padding: 3px 4px; font-size: 13px; align-content: center; }
  b, .now b { width: 28px; height: 28px; }
}
@media (max-width: 600px) {
  a { flex: 1 1 0; min-width: 0; padding: 3px 1px; font-size: 12px; }
  span { max-width: 100%; overflow: hidden; text-overflow: ellipsis; }
}
</style>
