<script setup lang="ts">
/** A photograph of the quilter's own top under the plan: choosing it, setting its corners, and its strength. */
import { computed, ref, watch } from 'vue'
import { usePhoto } from '../../state/photo'
import { useQuilt } from '../../state/quilt'
import { useTop } from '../../state/top'
import { tr } from '../../texts'

const photo = usePhoto()
const quilt = useQuilt()
const top = useTop()
const lies = computed(() => quilt.view?.ground)
const strength = ref(60)
watch(() => lies.value?.strength, (now) => { if (now !== undefined) strength.value = Math.round(now * 100) }, { immediate: true })
const cells = computed(() => (top.view?.cells ?? []).map((cell) => {
  const [row, column] = cell.place.split('-')
  return { place: cell.place, name: tr('{name}, row {row}, block {column}', { name: top.blocks.get(cell.block)?.name ?? 'block', row, column }) }
}))
function chosen(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (file) void photo.choose(file)
}
</script>

<template>
  <section class="stack">
    <p v-if="top.errorAt('photo')" class="card madder" role="alert">{{ top.errorAt('photo') }}</p>
    <template v-if="photo.taken">
      <h2 class="sub">{{ tr('Set its corners') }}</h2>
      <p>{{ tr('The photo may be at an angle. Mark its four corners and Kenzet straightens it to true size.') }}</p>
      <label class="pick">{{ tr('It shows') }}
        <select v-model="photo.place" class="text" data-testid="photo-place">
          <option value="top">{{ tr('the whole top') }}</option>
          <option v-for="cell in cells" :key="cell.place" :value="cell.place">{{ cell.name }}</option>
        </select>
      </label>
      <v-btn color="primary" variant="flat" data-testid="photo-lay" @click="photo.lay()">{{ tr('Put it under the plan') }}</v-btn>
      <v-btn class="plain" @click="photo.close()">{{ tr('Cancel') }}</v-btn>
    </template>
    <template v-else-if="lies">
      <h2 class="sub">{{ tr('Your photo is under the plan') }}</h2>
      <label class="slide">{{ tr('Photo strength') }}
        <input v-model.number="strength" type="range" min="0" max="100" step="5" data-testid="photo-strength" :aria-valuetext="`${strength} %`" @input="photo.show(strength / 100)" @change="photo.set(strength / 100)" />
        <span class="ends"><span>{{ tr('fabrics') }}</span><span>{{ tr('photo') }}</span></span>
      </label>
      <div class="chips">
        <v-btn class="chip" @click="photo.again()">{{ tr('Set the corners again') }}</v-btn>
        <label class="chip">{{ tr('Another photo …') }}<input type="file" accept="image/jpeg,image/png" class="sr" @change="chosen" /></label>
        <v-btn class="plain" data-testid="photo-away" @click="photo.away()">{{ tr('Remove the photo') }}</v-btn>
      </div>
    </template>
    <template v-else>
      <h2 class="sub">{{ tr('A photo of your own top') }}</h2>
      <p>{{ tr('Kenzet shows it under the plan at true scale, so you see the quilting on your own top. Hang the top flat and take the photo from straight in front.') }}</p>
      <label class="v-btn-like" :class="{ busy: photo.busy }">{{ photo.busy ? tr('One moment …') : tr('Choose a photo …') }}<input type="file" accept="image/jpeg,image/png" class="sr" data-testid="photo-file" :disabled="photo.busy" @change="chosen" /></label>
      <p class="quiet">{{ tr('JPEG or PNG, at most 25 MB. It stays on this machine; when and where it was taken is not kept.') }}</p>
    </template>
  </section>
</template>

<style scoped>
.pick, .slide { display: grid; gap: 4px; font-size: 14px; }
.slide input { width: 100%; accent-color: var(--indigo); }
.ends { display: flex; justify-content: space-between; font-size: 13px; color: var(--soft); }
.v-btn-like { display: grid; place-items: center; min-height: 38px; border-radius: 4px; background: var(--indigo-fill); color: #fff; font-weight: 500; font-size: 14px; cursor: pointer; }
.v-btn-like:focus-within { outline: 2px solid var(--madder); outline-offset: 2px; }
.busy { opacity: .6; }
</style>
