<script setup lang="ts">
/** Lines left: by zone, and at places that are begun. */
import type { Views } from '../../api/client'
import { counted, tr } from '../../texts'

defineProps<{ view: Views['SewingView'] }>()
defineEmits<{ go: [place: string, visit: number]; takeUp: []; close: [] }>()
</script>

<template>
  <section class="asks" :aria-label="tr('Lines left')">
    <h2>{{ tr('Lines left') }}</h2>
    <ul data-testid="left-zones"><li v-for="row in view.zones" :key="row.name"><v-btn class="chip row" @click="$emit('go', row.place, row.visit)"><b>{{ row.name }}</b> {{ row.words }}</v-btn></li></ul>
    <p class="say">{{ counted(view.untouched, 'One place is not begun. Click it on the quilt, or a zone above, to sew there.', '{count} places are not begun. Click one on the quilt, or a zone above, to sew there.') }}</p>
    <template v-if="view.places.length">
      <p class="label">{{ tr('Begun') }}</p>
      <ul><li v-for="row in view.places" :key="row.visit"><v-btn class="chip" @click="$emit('go', row.place, row.visit)">{{ row.name }}: {{ row.words }}</v-btn></li></ul>
    </template>
    <v-btn v-if="view.skipped" class="chip offer" data-testid="take-up" @click="$emit('takeUp')">{{ counted(view.skipped, 'Sew the line that you skipped', 'Sew the {count} lines that you skipped') }}</v-btn>
    <v-btn class="plain" data-testid="left-close" @click="$emit('close')">{{ tr('Back to the line') }}</v-btn>
  </section>
</template>

<style scoped>
.asks { display: grid; gap: 14px; }
.say { font-size: 17px; }
h2 { font-size: 30px; }
.row b { margin-right: 8px; }
ul { display: grid; gap: 7px; list-style: none; }
.chip { min-height: 44px; font-size: 16px; text-align: left; }
.plain { justify-self: start; min-height: 44px; font-size: 16px; }
</style>
