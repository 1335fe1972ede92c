/** Keeps the screen awake while sewing. */
import { useWakeLock } from '@vueuse/core'
import { onMounted, ref, type Ref } from 'vue'

/** False if the browser cannot do it, or refuses because of a low battery. */
export function useAwake(): Ref<boolean> {
  const lock = useWakeLock()
  const awake = ref(lock.isSupported.value)
  onMounted(() => lock.request('screen').catch(() => (awake.value = false)))
  return awake
}
