<script setup lang="ts">
/** The quilts that are here; goes straight on where there is only one and she came fresh. */
import { onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, Problem, type Views } from '../../api/client'

const router = useRouter()
const quilts = ref<Views['Listed'][]>()
const trouble = ref('')

const open = (id: string) => router.push({ name: 'fills', params: { quilt: id } })
onMounted(async () => {
  try {
    quilts.value = (await api.home()).quilts
    const fresh = !window.history.state?.back
    if (fresh && quilts.value.length === 1) await router.replace({ name: 'fills', params: { quilt: quilts.value[0]!.id } })
  } catch (error) {
    trouble.value = error instanceof Problem ? error.message : 'Something went wrong here.'
  }
})
async function add(plan: Record<string, unknown> | null) {
  try {
    quilts.value = (await api.addQuilts(plan)).quilts
    trouble.value = ''
    if (quilts.value[0]) await open(quilts.value[0].id)
  } catch (error) {
    trouble.value = error instanceof Problem ? error.message : 'Something went wrong here.'
  }
}
async function file(event: Event) {
  const input = event.target as HTMLInputElement
  const text = await input.files?.[0]?.text()
  input.value = ''
  if (text === undefined) return
  try {
    await add(JSON.parse(text))
  } catch {
    trouble.value = 'That file is not a quilt plan: it is not JSON. Choose a plan that Kenzet wrote.'
  }
}
</script>

<template>
  <section class="home">
    <h2>Your quilts</h2>
    <p v-if="trouble" class="card madder" role="alert">{{ trouble }}</p>
    <ul v-if="quilts?.length">
      <li v-for="quilt in quilts" :key="quilt.id"><button class="open" @click="open(quilt.id)">{{ quilt.name }}</button><a class="plain" :href="api.planFile(quilt.id)" :aria-label="`Keep ${quilt.name} as a plan file`">keep as a file</a></li>
    </ul>
    <p v-else-if="quilts">No quilt is here yet. Begin with a finished example and change what you like: everything can be undone.</p>
    <div v-if="quilts" class="do">
      <v-btn v-if="!quilts.length" color="primary" variant="flat" size="large" @click="add(null)">Put the demo quilt on the table</v-btn>
      <label class="chip">Open a plan file<input type="file" accept="application/json,.json" class="sr" @change="file" /></label>
    </div>
  </section>
</template>

<style scoped>
.home { max-width: 620px; margin: 70px auto; padding: 0 24px; display: grid; gap: 18px; }
ul { list-style: none; display: grid; gap: 10px; }
li { display: flex; gap: 12px; align-items: center; }
.open { flex: 1; text-align: left; padding: 16px 20px; border: 1px solid var(--rule); border-radius: 10px; background: var(--paper); font-size: 17px; cursor: pointer; }
.open:hover { border-color: var(--indigo); }
.do { display: flex; gap: 14px; align-items: center; }
</style>
