<script setup lang="ts">
/** The guide inside the app: the page of the current station, and the others. */
import { ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { htmlOf, pageFor, PAGES, type Page } from './guide'
import { tr } from '../../texts'

const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ keys: []; tour: [] }>()
const route = useRoute()
const page = ref<Page>('begin')
const html = ref('')
watch(open, (now) => { if (now) page.value = pageFor(route.name) }, { immediate: true })
watch([open, page], async () => {
  const wanted = page.value
  if (!open.value) return
  const found = await htmlOf(wanted)
  if (wanted === page.value) html.value = found
}, { immediate: true })
/** a link within the guide opens another page of it */
function follow(event: MouseEvent) {
  const link = (event.target as HTMLElement).closest('a')?.getAttribute('href')
  const found = PAGES.find(([key]) => link === `${key}.md`)
  if (!found) return
  event.preventDefault()
  page.value = found[0]
  ;(event.currentTarget as HTMLElement).scrollTo?.(0, 0)
}
</script>

<template>
  <v-dialog v-model="open" max-width="900" :aria-label="tr('Guide')">
    <div class="sheet">
      <nav class="chips" :aria-label="tr('Pages of the guide')">
        <v-btn v-for="[key, label] in PAGES" :key="key" class="chip" :aria-current="key === page ? 'page' : undefined" :aria-pressed="key === page" :data-testid="`guide-${key}`" @click="page = key">{{ label }}</v-btn>
      </nav>
      <!-- eslint-disable-next-line vue/no-v-html -- the guide's own text, built with the app -->
      <article tabindex="0" :aria-label="tr('The page')" data-testid="guide" @click="follow" v-html="html" />
      <div class="chips">
        <v-btn color="primary" variant="flat" data-testid="guide-close" @click="open = false">{{ tr('Close') }}</v-btn>
        <v-btn class="plain" data-testid="guide-keys" @click="emit('keys')">{{ tr('All keys') }}</v-btn>
        <v-btn class="plain" data-testid="guide-tour" @click="emit('tour')">{{ tr('Show me the first steps') }}</v-btn>
      </div>
    </div>
  </v-dialog>
</template>

<style scoped>
.sheet { background: var(--paper); color: var(--ink); border-radius: 12px; padding: 18px 22px; display: grid; grid-template-rows: auto minmax(0, 1fr) auto; gap: 12px; max-height: calc(100dvh - 60px); }
nav .chip { min-height: 32px; }
article { overflow-y: auto; font-size: 16px; line-height: 1.5; padding-right: 8px; }
article :deep(> *) { max-width: 68ch; margin: 0 0 12px; }
article :deep(img) { width: 100%; max-width: 100%; border: 1px solid var(--rule); border-radius: 8px; }
article :deep(h3) { margin-top: 18px; }
article :deep(table) { border-collapse: collapse; }
article :deep(td), article :deep(th) { text-align: left; padding: 4px 18px 4px 0; border-bottom: 1px solid var(--rule); }
article :deep(a) { color: var(--indigo); }
article :deep(code) { font: inherit; font-weight: 700; }
</style>
