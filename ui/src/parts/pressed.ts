/** Keys: what a part does at one, as long as the part is shown. */
import { useEventListener } from '@vueuse/core'
import { onMounted } from 'vue'

/** Whether a key goes to a field or to the browser, and not to the station. */
export const typed = (event: KeyboardEvent) => ['INPUT', 'SELECT', 'TEXTAREA'].includes((event.target as HTMLElement).tagName) || event.ctrlKey || event.metaKey

/** `first`: before all listeners without it. Otherwise inner parts come before outer ones. */
export const usePressed = (does: (event: KeyboardEvent) => void, first = false) => onMounted(() => void useEventListener('keydown', does, first))
