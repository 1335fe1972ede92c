/** A photograph whose corners are being set: which one, where it goes, and its four corners as shares of its size. */
import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import { api, Problem, type Views } from '../api/client'
import { useQuilt } from './quilt'
import { useTop } from './top'

type Corner = [number, number]

export const usePhoto = defineStore('photo', () => {
  const quilt = useQuilt()
  const top = useTop()
  const taken = shallowRef<Views['PhotoView']>()
  const corners = ref<Corner[]>([])
  const place = ref('top')
  const busy = ref(false)

  async function choose(file: File) {
    busy.value = true
    try {
      taken.value = await api.addPhoto(file)
      corners.value = [[0.08, 0.08], [0.92, 0.08], [0.92, 0.92], [0.08, 0.92]]
      place.value = 'top'
      top.wrong = undefined
    } catch (error) {
      if (!(error instanceof Problem)) throw error
      top.wrong = { where: 'photo', message: error.message }
    } finally {
      busy.value = false
    }
  }
  /** Set the corners of the present one again. */
  async function again() {
    const lies = quilt.view?.ground
    if (!lies) return
    corners.value = lies.corners.map(([x, y]) => [x!, y!])
    place.value = lies.place
    taken.value = await api.photo(lies.photo)
  }
  function move(index: number, x: number, y: number) {
    const within = (v: number) => Math.round(Math.min(Math.max(v, 0), 1) * 1e5) / 1e5
    corners.value = corners.value.map((corner, k) => (k === index ? [within(x), within(y)] : corner))
  }
  /** While the slider moves; nothing is stored yet. */
  function show(strength: number) {
    const view = quilt.view
    if (view?.ground) quilt.view = { ...view, ground: { ...view.ground, strength } }
  }
  function set(strength: number) {
    const lies = quilt.view?.ground
    if (lies) void top.change('photo', { kind: 'ground', ground: { photo: lies.photo, place: lies.place, corners: lies.corners, strength } })
  }
  async function lay() {
    const strength = quilt.view?.ground?.strength ?? 0.6
    const ground = { photo: taken.value!.id, place: place.value, corners: corners.value, strength }
    if (await top.change('photo', { kind: 'ground', ground })) close()
  }
  const away = () => top.change('photo', { kind: 'ground', ground: null })
  function close() {
    taken.value = undefined
  }
  return { taken, corners, place, busy, choose, again, move, show, set, lay, away, close }
})
