<script setup lang="ts">
/** The totals of the whole plan, with the change since the last try. */
import { computed } from 'vue'
import WordsText from './WordsText.vue'
import { useQuilt } from '../state/quilt'
import { tr } from '../texts'

const quilt = useQuilt()
const items = computed(() =>
  quilt.totals.map((total, k) => {
    const was = quilt.before?.[k]?.amount
    const share = was ? Math.round(((total.amount - was) / was) * 100) : 0
    const same = was === undefined || was === total.amount
    const change = same ? '' : `${total.amount > was ? '▲' : '▼'} ${was && Math.abs(share) < 1000 ? (Math.abs(share) < 1 ? tr('under 1 %') : `${Math.abs(share)} %`) : 'new'}`
    return { ...total, change, more: !same && total.amount > was }
  }),
)
</script>

<template>
  <footer :aria-label="tr('The whole quilt')">
    <span class="all">{{ tr('Whole quilt') }}</span>
    <dl>
      <div v-for="item in items" :key="item.label" :title="item.how" :class="{ how: item.how }">
        <dt>{{ item.label }}</dt>
        <dd><WordsText :words="item.words" /> <small v-if="item.change" :class="{ more: item.more }">{{ item.change }}</small></dd>
      </div>
    </dl>
  </footer>
</template>

<style scoped>
footer { background: var(--paper); border-top: 1px solid var(--rule); display: flex; align-items: center; gap: 34px; padding: 0 20px; min-height: 62px; }
.all { font: 400 16px var(--v-font-heading); color: var(--indigo); }
dl { display: flex; gap: 40px; }
.how { cursor: help; }
dt { font-size: 14px; color: var(--soft); }
dd { font-size: 18px; font-weight: 700; line-height: 1.25; }
small { font-size: 13px; color: var(--leaf); font-weight: 700; }
small.more { color: var(--madder); }
@media (max-width: 900px) {
  footer { gap: 16px; padding: 4px 14px; min-height: 0; flex-wrap: wrap; }
  dl { flex-wrap: wrap; gap: 2px 20px; }
  dt { font-size: 13px; }
  dd { font-size: 16px; }
}
</style>
