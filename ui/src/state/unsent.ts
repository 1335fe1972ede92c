/** What has to reach the server, kept in the browser until it does: an unreachable server, a closed lid or a reload lose nothing. */
import { ref, type Ref } from 'vue'
import { Problem } from '../api/client'

const AGAIN_MS = 4000
const AT_ONCE = 200

export interface Unsent<T, Waiting = T> {
  /** something is waiting here, and the server does not answer */
  waiting: Ref<boolean>
  /** what waits, including from an earlier visit */
  kept: () => Waiting | undefined
  put: (value: T) => void
  /** resolves when everything is sent, or when the server does not answer */
  flush: () => Promise<void>
  stop: () => void
}

interface How<T, Waiting> {
  joined: (waiting: Waiting | undefined, value: T) => Waiting
  batch: (waiting: Waiting) => Waiting
  /** what of `now` was not in `sent`; undefined if nothing is left */
  rest: (now: Waiting, sent: Waiting) => Waiting | undefined
  send: (batch: Waiting) => Promise<void>
  refused: (problem: Problem) => void
}

/** A queue for one value: only the newest is sent. `send` throws `Problem`; one with a status is final. */
export const newest = <T>(name: string, send: (value: T) => Promise<void>, refused: (problem: Problem) => void): Unsent<T> =>
  unsent<T, T>(name, { joined: (_, value) => value, batch: (value) => value, rest: (now, sent) => (JSON.stringify(now) === JSON.stringify(sent) ? undefined : now), send, refused })

/** A queue of items in order, each with a unique id: the server may get one twice, but never misses one. */
export const inOrder = <T extends { id: string }>(name: string, send: (batch: T[]) => Promise<void>, refused: (problem: Problem) => void): Unsent<T, T[]> =>
  unsent<T, T[]>(name, {
    joined: (waiting, value) => [...(waiting ?? []), value],
    batch: (waiting) => waiting.slice(0, AT_ONCE),
    rest: (now, sent) => {
      const ids = new Set(sent.map((one) => one.id))
      const left = now.filter((one) => !ids.has(one.id))
      return left.length ? left : undefined
    },
    send,
    refused,
  })

function unsent<T, Waiting>(name: string, how: How<T, Waiting>): Unsent<T, Waiting> {
  const key = `kenzet.unsent.${name}`
  const waiting = ref(false)
  let sending: Promise<void> | undefined
  let timer: ReturnType<typeof setTimeout> | undefined

  const kept = (): Waiting | undefined => {
    const said = localStorage.getItem(key)
    return said === null ? undefined : (JSON.parse(said) as Waiting)
  }
  function sent(batch: Waiting) {
    const now = kept()
    const left = now === undefined ? undefined : how.rest(now, batch)
    if (left === undefined) localStorage.removeItem(key)
    else localStorage.setItem(key, JSON.stringify(left))
  }
  async function all() {
    for (let now = kept(); now !== undefined; now = kept()) {
      const batch = how.batch(now)
      try {
        await how.send(batch)
        sent(batch)
      } catch (error) {
        if (!(error instanceof Problem)) throw error
        if (!error.status || error.status >= 500) {
          waiting.value = true
          timer = setTimeout(() => void flush(), AGAIN_MS)
          return
        }
        sent(batch) // it will never be accepted
        how.refused(error)
      }
    }
    waiting.value = false
  }
  async function flush() {
    clearTimeout(timer)
    sending ??= all().finally(() => (sending = undefined))
    await sending
  }
  const online = () => void flush()
  window.addEventListener('online', online)
  return {
    waiting,
    kept,
    flush,
    put(value) {
      localStorage.setItem(key, JSON.stringify(how.joined(kept(), value)))
      void flush()
    },
    stop() {
      clearTimeout(timer)
      window.removeEventListener('online', online)
    },
  }
}
