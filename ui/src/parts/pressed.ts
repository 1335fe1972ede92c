/** Keys: what a part does at one, as long as the part is shown. */
import { useEventListener } from '@vueuse/core'
import { onMounted } from 'vue'

/** Whether a key goes into a field or to the browser, and is not meant for the station. */
export const typed = (event: KeyboardEvent) => ['INPUT', 'SELECT', 'TEXTAREA'].includes((event.target as HTMLElement).tagName) || event.ctrlKey || event.metaKey

/** `first`: before all that listen without it. Of two alike the inner part is asked before the outer one. */
export const usePressed = (does: (event: KeyboardEvent) => void, first = false) => onMounted(() => void useEventListener('keydown', does, first))
