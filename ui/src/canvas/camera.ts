/** The camera over the quilt: fitting, zooming, panning and pinching, and telling a click from a drag. */
import { onBeforeUnmount, onMounted, ref, type Ref } from 'vue'
import { fit, toScreen, zoomed, type Box, type View } from './view'

/** The width of the tape measures along the top and the left of the pane. */
export const TAPE = 36
/** The strip at the bottom for the legend. */
const KEY = 34
const MARGIN = 20
/** px: a pointer that moved less counts as not moved. */
const MOVED_PX = 4
/** ms until a resting finger counts as a long press. */
const HOLD_MS = 500

/** `whole` is the quilt's box, `here` the chosen part's; `clicked` gets a pointer that did not move, and
 *  whether more is asked for: with Shift, the right button or a long press. */
export function useCamera(
  pane: Ref<HTMLElement | undefined>,
  whole: Ref<Box>,
  here: Ref<Box | undefined>,
  clicked: (event: PointerEvent, more: boolean) => void,
) {
  const width = ref(800)
  const height = ref(600)
  const view = ref<View>({ scale: 0.4, x: 0, y: 0 })
  const grabbing = ref(false)

  /** What was fitted stays fitted when the pane changes its size, until the first zoom or pan. */
  let untouched = true
  let framing: 'zone' | 'all' = 'zone'
  function measure() {
    if (!pane.value) return
    width.value = pane.value.clientWidth
    height.value = pane.value.clientHeight
    if (untouched && width.value > 50) go(framed(framing === 'zone' ? (here.value ?? whole.value) : whole.value), false)
  }
  let sizes: ResizeObserver | undefined
  onMounted(() => {
    sizes = new ResizeObserver(measure)
    sizes.observe(pane.value!)
    measure()
  })
  onBeforeUnmount(() => {
    sizes?.disconnect()
    window.clearTimeout(holding)
    cancelAnimationFrame(frame)
  })

  let frame = 0
  function go(target: View, soft = true) {
    cancelAnimationFrame(frame)
    const still = window.matchMedia?.('(prefers-reduced-motion: reduce)').matches
    if (!soft || still) {
      view.value = target
      return
    }
    const from = view.value
    const began = performance.now()
    const turn = (now: number) => {
      const t = Math.min((now - began) / 220, 1)
      const ease = 1 - (1 - t) ** 3
      const mix = (a: number, b: number) => a + (b - a) * ease
      view.value = { scale: mix(from.scale, target.scale), x: mix(from.x, target.x), y: mix(from.y, target.y) }
      if (t < 1) frame = requestAnimationFrame(turn)
    }
    frame = requestAnimationFrame(turn)
  }
  const framed = (box: Box) => {
    const inner = fit(box, width.value - TAPE, height.value - TAPE - KEY, MARGIN)
    return { ...inner, x: inner.x + TAPE, y: inner.y + TAPE }
  }
  function fitAll(soft = true) {
    untouched = true
    framing = 'all'
    go(framed(whole.value), soft)
  }
  function fitZone(soft = true) {
    untouched = true
    framing = 'zone'
    go(framed(here.value ?? whole.value), soft)
  }
  function zoomBy(factor: number) {
    untouched = false
    go(zoomed(view.value, factor, (width.value + TAPE) / 2, (height.value + TAPE) / 2), false)
  }
  function pan(dx: number, dy: number) {
    untouched = false
    view.value = { ...view.value, x: view.value.x + dx, y: view.value.y + dy }
  }
  const local = (event: { clientX: number; clientY: number }): [number, number] => {
    const box = pane.value!.getBoundingClientRect()
    return [event.clientX - box.left, event.clientY - box.top]
  }
  function wheel(event: WheelEvent) {
    const [x, y] = local(event)
    cancelAnimationFrame(frame)
    untouched = false
    view.value = zoomed(view.value, Math.exp(-event.deltaY * (event.ctrlKey ? 0.01 : 0.0016)), x, y)
  }

  // one pointer pans, two pinch; a pointer that did not move clicks, the right button or a long press adds
  const pointers = new Map<number, [number, number]>()
  let moved = 0
  let holding = 0
  function down(event: PointerEvent) {
    window.clearTimeout(holding)
    if (pointers.size === 0) moved = 0
    pointers.set(event.pointerId, local(event))
    if (event.pointerType !== 'touch' || pointers.size > 1) return
    holding = window.setTimeout(() => {
      if (moved >= MOVED_PX || pointers.size !== 1) return
      moved = Infinity // lifting the finger now is no click
      clicked(event, true)
    }, HOLD_MS)
  }
  function move(event: PointerEvent) {
    const before = pointers.get(event.pointerId)
    if (!before) return
    const now = local(event)
    const others = [...pointers].filter(([key]) => key !== event.pointerId).map(([, at]) => at)
    moved += Math.hypot(now[0] - before[0], now[1] - before[1])
    pointers.set(event.pointerId, now)
    if (moved < MOVED_PX) return
    if (!grabbing.value) {
      grabbing.value = true
      pane.value?.setPointerCapture?.(event.pointerId)
    }
    cancelAnimationFrame(frame)
    if (others[0]) {
      const [o] = others
      const factor = Math.hypot(now[0] - o[0], now[1] - o[1]) / Math.max(Math.hypot(before[0] - o[0], before[1] - o[1]), 1)
      view.value = zoomed(view.value, factor, o[0], o[1])
    } else pan(now[0] - before[0], now[1] - before[1])
  }
  function up(event: PointerEvent) {
    window.clearTimeout(holding)
    const was = pointers.delete(event.pointerId)
    grabbing.value = false
    if (was && moved < MOVED_PX && pointers.size === 0 && event.type === 'pointerup') clicked(event, event.shiftKey || event.button === 2)
  }

  /** Bring the chosen part into view if it is small or partly outside. */
  function seek() {
    const box = here.value
    if (!box) return
    const size = Math.max(box.right - box.left, box.top - box.bottom) * view.value.scale
    const [left, top] = toScreen(view.value, box.left, box.top)
    const [right, bottom] = toScreen(view.value, box.right, box.bottom)
    const out = left < TAPE || top < TAPE || right > width.value || bottom > height.value
    if (out || size < 0.45 * Math.min(width.value, height.value)) fitZone()
  }

  /** Zoom in on a place of the quilt: this many mm around it fill the pane. */
  function close(x: number, y: number, far = 50) {
    untouched = false
    const about = Math.max(far, 50)
    go(framed({ left: x - about, right: x + about, bottom: y - about, top: y + about }))
  }

  return { width, height, view, grabbing, local, fitAll, fitZone, zoomBy, pan, seek, close, wheel, down, move, up }
}
