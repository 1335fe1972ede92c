<script setup lang="ts">
/** The swatch book over the quilt: pictures of all swatches, and a zone of this quilt to add. */
import { computed, onMounted, ref, watch } from 'vue'
import { api } from '../../api/client'
import WordsText from '../../parts/WordsText.vue'
import { useQuilt } from '../../state/quilt'
import { useSwatches } from '../../state/swatches'
import { tr } from '../../texts'

const quilt = useQuilt()
const book = useSwatches()
const heading = ref<HTMLElement>()
const name = ref('')
const zones = computed(() => quilt.zones.filter((one) => one.drawings.length))
watch(zones, (now) => { if (!now.some((one) => one.key === book.zone)) book.zone = now[0]?.key ?? '' }, { immediate: true })
watch(() => quilt.unit, () => void book.load())
const row = (swatch: (typeof book.shown)[number], label: string) => swatch.rows.find((one) => one.label[0] === label)?.words ?? []
async function add() {
  if (book.zone && (await book.add(name.value.trim()))) name.value = ''
}
onMounted(() => heading.value?.focus())
</script>

<template>
  <section class="board" :aria-label="tr('Swatch book')" data-testid="swatch-book" @keydown.esc.stop="book.close()">
    <header>
      <h2 ref="heading" tabindex="-1">{{ tr('Swatch book') }}</h2>
      <input v-if="(book.list?.length ?? 0) > 3" v-model="book.sought" class="text" :placeholder="tr('Find a swatch')" :aria-label="tr('Find a swatch')" data-testid="swatch-find">
      <v-btn class="chip" data-testid="swatch-close" @click="book.close()">{{ tr('Back to the quilt') }}</v-btn>
    </header>
    <form v-if="zones.length" class="new" @submit.prevent="add()">
      <label>{{ tr('From this quilt') }} <select v-model="book.zone" data-testid="swatch-zone"><option v-for="one in zones" :key="one.key" :value="one.key">{{ one.name }}</option></select></label>
      <label>{{ tr('Name it') }} <input v-model="name" class="text" maxlength="80" :placeholder="tr('as its zone')" data-testid="swatch-name"></label>
      <v-btn color="primary" variant="flat" type="submit" :disabled="book.busy" data-testid="swatch-add">{{ tr('Add a swatch') }}</v-btn>
    </form>
    <p v-if="book.wrong && ['book', 'zone', 'swatches', 'file', 'format'].includes(book.wrong.field)" class="card madder" role="alert">{{ book.wrong.message }}</p>
    <p v-if="book.list && !book.list.length" class="quiet">{{ tr('No swatches yet. Add a zone that you have quilted on a test piece: its fill, spacing, batting and thread are kept, with its picture. Then say how it feels.') }}</p>
    <p v-else-if="book.list && !book.shown.length" class="quiet">{{ tr('No swatch with “{sought}”.', { sought: book.sought }) }}</p>
    <ul class="cards">
      <li v-for="one in book.shown" :key="one.id">
        <button :aria-pressed="book.key === one.id" :data-testid="`swatch-${one.id}`" @click="book.choose(one.id)">
          <img :src="api.swatchUrl(one.id)" :alt="tr('{name}: {label}, quilted', { name: one.name, label: one.label })">
          <b>{{ one.name }}</b>
          <span>{{ one.label }}<template v-if="row(one, 'Spacing')[0] !== '–'">{{ ' ' }}<WordsText :words="row(one, tr('Spacing'))" /></template>, <WordsText :words="row(one, 'Batting')" /></span>
          <span v-if="row(one, tr('Feels'))[0] !== '–'">{{ tr('feels') }} <WordsText :words="row(one, tr('Feels'))" /></span>
        </button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.board { position: absolute; inset: 0; background: var(--muslin); overflow-y: auto; padding: 14px 18px; display: flex; flex-direction: column; gap: 12px; z-index: 5; }
header { display: flex; flex-wrap: wrap; justify-content: space-between; align-items: center; gap: 8px 12px; }
h2:focus-visible { outline: none; }
header .text { flex: 0 1 220px; }
.new { display: flex; flex-wrap: wrap; gap: 8px 16px; align-items: end; }
label { display: grid; gap: 2px; font-size: 13px; color: var(--soft); }
select, .new .text { min-height: 40px; max-width: 260px; border: 1px solid var(--rule); border-radius: 8px; padding: 4px 8px; background: var(--field); color: var(--ink); font: inherit; font-size: 14px; }
.cards { list-style: none; margin: 0; padding: 0; display: grid; grid-template-columns: repeat(auto-fill, minmax(min(100%, 210px), 1fr)); gap: 12px; }
.cards button { width: 100%; height: 100%; display: flex; flex-direction: column; gap: 2px; border: 1px solid var(--rule); border-radius: 12px; background: var(--paper); color: var(--ink); padding: 10px; text-align: left; cursor: pointer; font-size: 14px; }
.cards button[aria-pressed='true'] { border-color: var(--indigo); box-shadow: 0 0 0 2px var(--indigo); }
.cards img { width: 100%; aspect-ratio: 4 / 3; object-fit: contain; border-radius: 6px; background: #faf6ee; margin-bottom: 6px; }
@media (max-width: 600px) { .cards { grid-template-columns: 1fr 1fr; } }
.cards span { color: var(--soft); font-size: 13px; }
</style>
