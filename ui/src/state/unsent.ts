/** What has to reach the server, kept in the browser until it has: a lost server, a closed lid or a reload lose nothing. */
import { ref, type Ref } from 'vue'
import { Problem } from '../api/client'

const AGAIN_MS = 4000

export interface Newest<T> {
  /** something is kept here that the server does not know yet */
  waiting: Ref<boolean>
  /** what waits from an earlier visit */
  kept: () => T | undefined
  /** send this; it takes the place of what waits */
  put: (value: T) => void
  stop: () => void
}

/** The newest of one value: of several that wait only the last is sent. `send` throws `Problem`; one with a status is final. */
export function newest<T>(name: string, send: (value: T) => Promise<void>, refused: (problem: Problem) => void): Newest<T> {
  const key = `kenzet.unsent.${name}`
  const waiting = ref(false)
  let sending = false
  let timer: ReturnType<typeof setTimeout> | undefined

  const kept = (): T | undefined => {
    const said = localStorage.getItem(key)
    return said === null ? undefined : (JSON.parse(said) as T)
  }
  async function flush() {
    clearTimeout(timer)
    if (sending) return
    sending = true
    try {
      for (let said = localStorage.getItem(key); said !== null; said = localStorage.getItem(key)) {
        await send(JSON.parse(said) as T)
        if (localStorage.getItem(key) === said) localStorage.removeItem(key)
      }
      waiting.value = false
    } catch (error) {
      if (!(error instanceof Problem)) throw error
      if (error.status && error.status < 500) {
        localStorage.removeItem(key) // it will never be taken
        waiting.value = false
        refused(error)
      } else {
        waiting.value = true
        timer = setTimeout(() => void flush(), AGAIN_MS)
      }
    } finally {
      sending = false
    }
  }
  const online = () => void flush()
  window.addEventListener('online', online)
  return {
    waiting,
    kept,
    put(value) {
      localStorage.setItem(key, JSON.stringify(value))
      void flush()
    },
    stop() {
      clearTimeout(timer)
      window.removeEventListener('online', online)
    },
  }
}
