/** Meeting the piecing: the chosen features, and the settings that hit them all. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, type Views } from '../api/client'
import { useAsk } from './ask'
import { useQuilt } from './quilt'
import { useZone } from './zone'

export const useMeeting = defineStore('meeting', () => {
  const quilt = useQuilt()
  const zone = useZone()
  const choosing = ref(false)
  const chosen = ref<number[]>([])
  const found = shallowRef<Views['MeetView']>()
  const { ask, drop, fault } = useAsk()
  const trouble = computed(() => fault.value?.message ?? '')

  function begin() {
    choosing.value = true
    chosen.value = []
    found.value = undefined
    drop()
  }
  function end() {
    choosing.value = false
    chosen.value = []
    found.value = undefined
    drop()
  }
  watch(() => zone.key, end)
  watch(() => zone.plan?.fill?.kind, (now, before) => { if (before && now !== before) end() })

  /** Add a feature, or remove it. */
  async function take(index: number) {
    chosen.value = chosen.value.includes(index) ? chosen.value.filter((k) => k !== index) : [...chosen.value, index]
    found.value = undefined
    if (chosen.value.length >= 2) await look()
  }

  async function look() {
    const fill = zone.plan?.fill ?? undefined
    const body = { zone: zone.key, place: zone.place, layer: zone.layer, unit: quilt.unit, fill, features: chosen.value } as Views['MeetRequest']
    const now = await ask((signal) => api.spacingFits(quilt.id, body, signal))
    if (now) found.value = now
  }

  async function lay(way: Views['MeetingView']) {
    await zone.setAll(way.values)
  }

  return { choosing, chosen, found, trouble, begin, end, take, lay }
})
