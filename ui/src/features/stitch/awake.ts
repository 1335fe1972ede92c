/** The screen stays awake while she sews. */
import { onBeforeUnmount, onMounted, ref, type Ref } from 'vue'

/** False where the browser cannot do it. */
export function useAwake(): Ref<boolean> {
  const awake = ref('wakeLock' in navigator)
  let lock: WakeLockSentinel | undefined
  async function hold() {
    if (document.visibilityState !== 'visible' || !('wakeLock' in navigator)) return
    try {
      lock = await navigator.wakeLock.request('screen')
      awake.value = true
    } catch {
      awake.value = false // a battery that runs low, or a page that may not
    }
  }
  const again = () => void hold()
  onMounted(() => {
    void hold()
    document.addEventListener('visibilitychange', again)
  })
  onBeforeUnmount(() => {
    document.removeEventListener('visibilitychange', again)
    void lock?.release()
  })
  return awake
}
