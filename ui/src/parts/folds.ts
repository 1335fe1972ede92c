/** Which folds are open: an opened fold stays open for other zones and later visits, in this browser. */
import { useLocalStorage } from '@vueuse/core'
import { computed } from 'vue'

const opened = useLocalStorage<Record<string, boolean>>('kenzet-folds', {})

export function useFold(name: () => string, first: () => boolean = () => false) {
  return computed({
    get: () => opened.value[name()] ?? first(),
    set: (open) => (opened.value = { ...opened.value, [name()]: open }),
  })
}
