/** A request: late answers are dropped, it is visible while under way, an error is shown at its field. */
import { onScopeDispose, readonly, ref } from 'vue'
import { Problem } from '../api/client'

export interface Fault {
  field: string
  message: string
  status: number
}

export function useAsk() {
  const pending = ref(false)
  const fault = ref<Fault>()
  let mine: AbortController | undefined

  /** The answer to `call`; undefined if a newer request replaced it, or if it was refused: then `fault` says why. */
  async function ask<T>(call: (signal: AbortSignal) => Promise<T>): Promise<T | undefined> {
    mine?.abort()
    const own = (mine = new AbortController())
    pending.value = true
    try {
      const found = await call(own.signal)
      if (own !== mine) return undefined
      fault.value = undefined
      return found
    } catch (error) {
      if (own !== mine || own.signal.aborted) return undefined
      if (!(error instanceof Problem)) throw error
      fault.value = { field: error.field, message: error.message, status: error.status }
      return undefined
    } finally {
      if (own === mine) pending.value = false
    }
  }

  /** Ignore the request under way. */
  function drop() {
    mine?.abort()
    mine = undefined
    pending.value = false
    fault.value = undefined
  }
  onScopeDispose(drop, true)

  return { ask, drop, pending: readonly(pending), fault: readonly(fault) }
}
