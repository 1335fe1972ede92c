<script setup lang="ts">
/** Meets the piecing: choose two or more features, and get the settings that hit them all. */
import { computed } from 'vue'
import WordsText from '../../parts/WordsText.vue'
import { useMeeting } from '../../state/meeting'
import { useZone } from '../../state/zone'
import ToldText from '../../parts/ToldText.vue'
import { tr, whole } from '../../texts'

const zone = useZone()
const meeting = useMeeting()
const names = computed(() => meeting.chosen.map((k) => zone.plan?.features[k]?.name ?? ''))
</script>

<template>
  <v-btn v-if="!meeting.choosing" class="plain start" data-testid="meet" @click="meeting.begin()">{{ tr('Make lines meet the piecing …') }}</v-btn>
  <section v-else class="meet" :aria-label="tr('Meets the piecing')" data-testid="meet-card">
    <div class="between"><b>{{ tr('Meets the piecing') }}</b><v-btn class="plain" @click="meeting.end()">{{ tr('Done') }}</v-btn></div>
    <p v-if="!names.length">{{ tr('Click the points that a line must hit: first the point to count from, then one or more others.') }}</p>
    <p v-else><ToldText :text="names.length > 1 ? whole('From {start} to {others}') : whole('From {start}: now click the point that a line must hit.')"><template #start><b>{{ names[0] }}</b></template><template #others><b>{{ names.slice(1).join(', ') }}</b></template></ToldText></p>
    <p v-if="meeting.trouble" class="wrong" role="alert">{{ meeting.trouble }}</p>
    <p v-if="meeting.found?.said" class="card weld">{{ meeting.found.said }}</p>
    <div v-if="meeting.found" class="ways">
      <button v-for="(way, k) in meeting.found.ways" :key="k" class="way" :class="{ miss: !way.exact }" data-testid="way" @click="meeting.lay(way)">
        <b><WordsText :words="way.words" /></b><span>{{ way.label }}</span>
      </button>
    </div>
  </section>
</template>

<style scoped>
.start { align-self: flex-start; }
.meet { display: grid; gap: 8px; border: 1px solid var(--rule); border-radius: 10px; background: var(--field); padding: 10px 12px; font-size: 14px; }
.ways { display: grid; gap: 6px; }
.way { display: flex; justify-content: space-between; align-items: center; gap: 12px; text-align: left; border: 1px solid var(--leaf); background: var(--leaf-ground); border-radius: 8px; padding: 3px 10px; min-height: 38px; cursor: pointer; }
.way span { text-align: right; font-size: 13px; }
.way.miss { border-color: var(--weld); background: var(--weld-ground); }
</style>
