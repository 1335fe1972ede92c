/** Meeting the piecing: the features that she has chosen, and the ways to hit them all. */
import { defineStore } from 'pinia'
import { ref, shallowRef, watch } from 'vue'
import { api, Problem, type Views } from '../api/client'
import { useQuilt } from './quilt'
import { useZone } from './zone'

export const useMeeting = defineStore('meeting', () => {
  const quilt = useQuilt()
  const zone = useZone()
  const choosing = ref(false)
  const chosen = ref<number[]>([])
  const found = shallowRef<Views['MeetView']>()
  const trouble = ref('')
  let asking: AbortController | undefined

  function begin() {
    choosing.value = true
    chosen.value = []
    found.value = undefined
    trouble.value = ''
  }
  function end() {
    choosing.value = false
    chosen.value = []
    found.value = undefined
    asking?.abort()
  }
  watch(() => zone.key, end)
  watch(() => zone.plan?.fill?.kind, (now, before) => { if (before && now !== before) end() })

  /** A feature more, or one less. */
  async function take(index: number) {
    chosen.value = chosen.value.includes(index) ? chosen.value.filter((k) => k !== index) : [...chosen.value, index]
    found.value = undefined
    if (chosen.value.length >= 2) await ask()
  }

  async function ask() {
    asking?.abort()
    asking = new AbortController()
    const fill = zone.plan?.fill ?? undefined
    try {
      found.value = await api.meet(quilt.id, { zone: zone.key, place: zone.place, layer: zone.layer, unit: quilt.unit, fill, features: chosen.value } as Views['MeetRequest'], asking.signal)
      trouble.value = ''
    } catch (error) {
      if (error instanceof Problem) trouble.value = error.message
    }
  }

  async function lay(way: Views['MeetingView']) {
    await zone.setAll(way.values)
  }

  return { choosing, chosen, found, trouble, begin, end, take, lay }
})
