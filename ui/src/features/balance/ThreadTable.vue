<script setup lang="ts">
/** Threads on every quilted fabric: each cell shows the thread on that cloth, and how visible it is. */
import type { Views } from '../../api/client'
import { tr } from '../../texts'

defineProps<{ threads: Views['ThreadRow'][]; busy: boolean }>()
const emit = defineEmits<{ use: [key: string] }>()
</script>

<template>
  <div class="threads">
    <section v-for="row in threads" :key="row.key" :class="{ used: row.used }" :data-testid="`thread-${row.key}`">
      <header>
        <b>{{ row.name }}</b><span>{{ row.words }}</span>
        <em v-if="row.used">{{ tr('in use') }}</em>
        <v-btn v-else class="plain" :disabled="busy" :data-testid="`use-${row.key}`" @click="emit('use', row.key)">{{ tr('Use it') }}</v-btn>
      </header>
      <ul>
        <li v-for="cell in row.cells" :key="cell.fabric" :title="tr('{fabric}: {look} (difference {figure})', { fabric: cell.fabric, look: tr(cell.look), figure: cell.figure })">
          <svg width="52" height="30" role="img" :aria-label="tr('{name} on {fabric}: {look}', { name: row.name, fabric: cell.fabric, look: tr(cell.look) })">
            <rect width="52" height="30" rx="5" :fill="cell.colour" />
            <path d="M4 9h44M4 21h44" :stroke="row.colour" stroke-width="2" stroke-dasharray="5.5 2" />
          </svg>
          <small :class="cell.look">{{ tr(cell.look) }}</small>
        </li>
      </ul>
      <p v-if="row.note" class="note">{{ row.note }}</p>
    </section>
  </div>
</template>

<style scoped>
.threads { display: grid; gap: 10px; }
section { border: 1px solid var(--rule); border-radius: 10px; padding: 8px 10px; }
.used { border-color: var(--indigo); }
header { display: flex; gap: 10px; align-items: baseline; font-size: 14px; min-height: 28px; }
header span { color: var(--soft); flex: 1; }
header em { font-style: normal; color: var(--indigo); }
ul { list-style: none; margin: 4px 0 0; padding: 0; display: flex; flex-wrap: wrap; gap: 8px; }
li { display: grid; justify-items: center; }
small { font-size: 12px; color: var(--soft); }
small.shows { font-weight: 700; color: var(--ink); }
.note { font-size: 13px; color: var(--soft); }
</style>
