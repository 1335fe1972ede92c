/** The keys of the drawing: f, g, +, − and the arrows; e shows the relief, d the density map. */
import type { Ref } from 'vue'
import { typed, usePressed } from '../parts/pressed'

interface Movable {
  fitAll: () => void
  fitZone: () => void
  zoomBy: (factor: number) => void
  pan: (dx: number, dy: number) => void
  turnRelief?: () => void
  turnDensity?: () => void
}

const STEP = 60

export function useCanvasKeys(canvas: Ref<Movable | undefined>) {
  function keys(event: KeyboardEvent) {
    if (typed(event)) return
    const does: Record<string, (c: Movable) => void> = {
      f: (c) => c.fitAll(),
      g: (c) => c.fitZone(),
      '+': (c) => c.zoomBy(1.35),
      '=': (c) => c.zoomBy(1.35),
      e: (c) => c.turnRelief?.(),
      d: (c) => c.turnDensity?.(),
      '-': (c) => c.zoomBy(1 / 1.35),
      ArrowLeft: (c) => c.pan(STEP, 0),
      ArrowRight: (c) => c.pan(-STEP, 0),
      ArrowUp: (c) => c.pan(0, STEP),
      ArrowDown: (c) => c.pan(0, -STEP),
    }
    if (!canvas.value || !does[event.key]) return
    event.preventDefault()
    does[event.key]!(canvas.value)
  }
  usePressed(keys)
}
