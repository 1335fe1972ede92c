/** The screen stays awake while she sews. */
import { useWakeLock } from '@vueuse/core'
import { onMounted, ref, type Ref } from 'vue'

/** False where the browser cannot do it, or may not: a battery that runs low. */
export function useAwake(): Ref<boolean> {
  const lock = useWakeLock()
  const awake = ref(lock.isSupported.value)
  onMounted(() => lock.request('screen').catch(() => (awake.value = false)))
  return awake
}
