/** The balance of the quilt: requested again whenever the plan has changed while it is shown. */
import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, shallowRef, watch } from 'vue'
import { api, type Light, type Views } from '../api/client'
import { useAsk } from './ask'
import { useQuilt } from './quilt'

export const useBalance = defineStore('balance', () => {
  const quilt = useQuilt()
  const view = shallowRef<Views['BalanceView']>()
  const of = shallowRef('')
  const open = shallowRef(false)
  /** the ratio from which two zones look different, and the direction of the light; stored in this browser */
  const reads = useLocalStorage('kenzet-reads', 2)
  const light = useLocalStorage<Light>('kenzet-light', 'upper left')
  const { ask, drop, fault } = useAsk()
  const trouble = computed(() => fault.value?.message ?? '')

  async function look() {
    if (!open.value || !quilt.id || !quilt.view) return
    const id = quilt.id
    if (of.value !== id) view.value = undefined
    const found = await ask((signal) => api.balance(id, quilt.unit, reads.value, signal))
    if (!found || quilt.id !== id) return
    of.value = id
    view.value = found
  }
  watch(() => [open.value, quilt.id, quilt.view?.version, quilt.unit, reads.value], () => void look())

  function close() {
    drop()
    open.value = false
  }
  return { view, open, reads, light, trouble, look, close }
})
