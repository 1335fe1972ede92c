<script setup lang="ts">
/** A station: the quilt (or what stands for it) at the left, the slip at the right. */
</script>

<template>
  <div class="page">
    <div class="table"><slot /></div>
    <aside class="slip" aria-label="What is chosen"><slot name="slip" /></aside>
  </div>
</template>

<style scoped>
.page { display: grid; grid-template-columns: minmax(0, 1fr) 364px; height: 100%; }
.table { min-width: 0; min-height: 0; position: relative; }
.slip { position: relative; background: var(--paper); border-left: 1px solid var(--rule); padding: 14px 18px; overflow-y: auto; display: flex; flex-direction: column; gap: 12px; }
@media (max-width: 900px) { .page { grid-template: minmax(0, 1fr) minmax(0, 46%) / minmax(0, 1fr); } .slip { border-left: 0; border-top: 1px solid var(--rule); } }
</style>
