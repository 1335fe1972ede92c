/** The two points between which a zone is to be divided: chosen on the drawing, or measured along an edge. */
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, Problem, type Unit, type Views } from '../api/client'

export const useCutting = defineStore('cutting', () => {
  const points = ref<Views['PointView'][]>([])
  const edges = ref<Views['Spot'][]>([])
  const ends = ref<Views['PointView'][]>([])
  const byEdge = ref(false)
  const edge = ref<number>()
  /** what can be clicked on the drawing now */
  const picks = computed(() => {
    if (!points.value.length || ends.value.length > 1) return undefined
    if (byEdge.value) return { kind: 'edge' as const, spots: edges.value }
    return { kind: 'point' as const, spots: points.value.map(({ at, name }) => ({ points: at, name })) }
  })

  let begun = 0
  let measuring: Promise<unknown> = Promise.resolve()
  async function begin(quilt: string, zone: string, unit: Unit) {
    const mine = (begun += 1)
    const found = await api.cutPoints(quilt, { zone, unit })
    if (mine !== begun) return
    points.value = found.points
    edges.value = found.edges
    ends.value = []
  }
  function pick(index: number) {
    if (byEdge.value) edge.value = index
    else ends.value = [...ends.value, points.value[index]!].slice(-2)
  }
  /** A point `along` an edge from its first corner. Returns an error, in words. */
  function measure(quilt: string, zone: string, number: number, along: string, unit: Unit): Promise<string | undefined> {
    edge.value = undefined
    byEdge.value = false
    const mine = begun
    const found = measuring.then(async () => {
      try {
        const { measured } = await api.cutPoints(quilt, { zone, edge: number, along, unit })
        if (measured && mine === begun) ends.value = [...ends.value, measured].slice(-2)
      } catch (error) {
        if (!(error instanceof Problem) || mine !== begun) return undefined
        byEdge.value = true // the edge is asked for again once the measure is corrected
        return error.message
      }
      return undefined
    })
    measuring = found
    return found
  }
  /** Discard the chosen ends, including one that is still being measured. */
  function startOver() {
    begun += 1
    ends.value = []
  }
  function stop() {
    begun += 1
    points.value = []
    ends.value = []
    byEdge.value = false
  }
  return { points, edges, ends, byEdge, edge, picks, begin, pick, measure, startOver, stop }
})
