/** The two points between which a zone is to be cut: chosen on the drawing, or measured along an edge. */
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, Problem, type Unit, type Views } from '../api/client'

export const useCutting = defineStore('cutting', () => {
  const points = ref<Views['PointView'][]>([])
  const edges = ref<Views['Spot'][]>([])
  const ends = ref<Views['PointView'][]>([])
  const byEdge = ref(false)
  const edge = ref<number>()
  /** what may be clicked on the drawing just now */
  const picks = computed(() => {
    if (!points.value.length || ends.value.length > 1) return undefined
    if (byEdge.value) return { kind: 'edge' as const, spots: edges.value }
    return { kind: 'point' as const, spots: points.value.map(({ at, name }) => ({ points: at, name })) }
  })

  async function begin(quilt: string, zone: string, unit: Unit) {
    const found = await api.cutPoints(quilt, { zone, unit })
    points.value = found.points
    edges.value = found.edges
    ends.value = []
  }
  function pick(index: number) {
    if (byEdge.value) edge.value = index
    else ends.value = [...ends.value, points.value[index]!].slice(-2)
  }
  /** A point `along` an edge from its first corner. Gives what is wrong, in words. */
  async function measure(quilt: string, zone: string, number: number, along: string, unit: Unit): Promise<string | undefined> {
    edge.value = undefined
    try {
      const { measured } = await api.cutPoints(quilt, { zone, edge: number, along, unit })
      if (measured) ends.value = [...ends.value, measured].slice(-2)
      byEdge.value = false
    } catch (error) {
      if (error instanceof Problem) return error.message
    }
    return undefined
  }
  function stop() {
    points.value = []
    ends.value = []
    byEdge.value = false
  }
  return { points, edges, ends, byEdge, edge, picks, begin, pick, measure, stop }
})
