/** Draws the canvas under the quilt at most once a frame, whenever something on it has changed. */
import { computed, onBeforeUnmount, onMounted, shallowRef, watch, type Ref } from 'vue'
import type { Views } from '../api/client'
import { add, draw, drawnPart, type Ground, type Outline, type Stitches } from './draw'
import type { Laid } from './scene'
import type { Placing, View } from './view'

/** number of visible coordinates above which the quilt is moved as a picture */
const HEAVY = 12_000
const REST_MS = 90
/** ms after which a moved picture is drawn again */
const LONGEST_MS = 1200

interface Shows {
  size: () => { width: number; height: number }
  view: () => View
  quilt: () => Views['QuiltView']
  laid: () => Laid[]
  zone: () => string
  faint: () => boolean
  /** zones have visible outlines */
  showZones: () => boolean
  stitchMm: number
}

const known = new WeakMap<Views['DrawingView'], Path2D>()
/** The path of a drawing, cached even if other zones change. */
function pathOf(drawing: Views['DrawingView']): Path2D {
  const path = known.get(drawing) ?? new Path2D()
  if (known.has(drawing)) return path
  for (const line of drawing.lines) add(path, line, false)
  for (const line of drawing.paths) add(path, line, false)
  known.set(drawing, path)
  return path
}

function hintsOf(drawing: Views['DrawingView']): Path2D | undefined {
  if (!drawing.hints.length) return undefined
  const path = new Path2D()
  for (const line of drawing.hints) add(path, line, false)
  return path
}

export function useSurface(surface: Ref<HTMLCanvasElement | undefined>, shows: Shows) {
  const parts = computed(() => new Map(shows.quilt().parts.map((part) => [part.key, drawnPart(part, shows.quilt().fabrics)])))
  const byPlace = computed(() => new Map(shows.laid().map((item) => [item.place, item])))
  const whole = computed<Laid>(() => {
    const { width, height } = shows.quilt()
    const part = { key: 'top', kin: 'top', name: '', width, height, places: [], patches: [] }
    return { place: 'top', at: [1, 0, 0, 1, 0, 0], part, box: { left: 0, bottom: 0, right: width, top: height } }
  })
  // paths are made once for each drawing, not at every zoom
  const stitches = computed<Stitches[]>(() =>
    shows.quilt().zones.flatMap((zone) =>
      zone.drawings.map((drawing) => {
        const places = drawing.places.map((place) => (place === 'top' ? whole.value : byPlace.value.get(place))).filter((p) => p !== undefined)
        return { path: pathOf(drawing), hints: hintsOf(drawing), places, chosen: zone.key === shows.zone() }
      }),
    ),
  )
  const outlines = computed<Outline[]>(() => {
    if (!shows.showZones()) return []
    return shows.quilt().zones.flatMap((zone) =>
      zone.shapes.map((shape) => {
        const path = new Path2D()
        for (const ring of shape.rings) add(path, ring, true)
        return { path, places: shape.places.map((place) => byPlace.value.get(place) ?? whole.value) }
      }),
    )
  })
  const image = shallowRef<HTMLImageElement>()
  watch(
    () => shows.quilt().ground?.url,
    (url) => {
      if (!url) return void (image.value = undefined)
      const loading = new Image()
      loading.onload = () => { if (shows.quilt().ground?.url === url) image.value = loading }
      loading.src = url
    },
    { immediate: true },
  )
  const ground = computed<Ground | undefined>(() => {
    const lies = shows.quilt().ground
    if (!lies || !image.value) return undefined
    return { image: image.value, at: lies.at as Placing, width: lies.width, height: lies.height, place: lies.place, strength: lies.strength }
  })

  // A slow drawing is drawn once and moved as a picture until the hand rests. Points are counted, not
  // milliseconds: the browser draws asynchronously.
  const weight = computed(() => {
    const points = shows.quilt().parts.reduce((sum, part) => sum + part.places.length * part.patches.reduce((n, p) => n + p.rings.reduce((m, r) => m + r.length, 0), 0), 0)
    return shows.quilt().zones.reduce((sum, zone) => sum + zone.drawings.reduce((n, d) => n + d.places.length * (d.lines.length * 4 + d.paths.reduce((m, r) => m + r.length, 0)), 0), points)
  })
  let pictured: { bitmap: ImageBitmap; view: View; width: number; height: number } | undefined
  let frame = 0
  let drawings = 0
  let rest = 0
  let wholeAt = 0

  function paint(all: boolean) {
    frame = 0
    const context = surface.value?.getContext?.('2d')
    if (!context || !surface.value) return
    const { width, height } = shows.size()
    const view = shows.view()
    const ratio = window.devicePixelRatio || 1
    const [wide, high] = [Math.round(width * ratio), Math.round(height * ratio)]
    if (surface.value.width !== wide || surface.value.height !== high) {
      surface.value.width = wide
      surface.value.height = high
    }
    const heavy = weight.value > HEAVY && 'OffscreenCanvas' in window
    const now = performance.now()
    if (heavy && !all && pictured?.width === width && pictured.height === height && now - wholeAt < LONGEST_MS) {
      const by = view.scale / pictured.view.scale
      context.setTransform(1, 0, 0, 1, 0, 0)
      context.clearRect(0, 0, surface.value.width, surface.value.height)
      const { x, y } = pictured.view
      context.drawImage(pictured.bitmap, (view.x - x * by) * ratio, (view.y - y * by) * ratio, wide * by, high * by)
      window.clearTimeout(rest)
      rest = window.setTimeout(() => soon(true), REST_MS)
      return
    }
    const look = { width, height, view, ground: ground.value, stitchMm: shows.stitchMm, faint: shows.faint() }
    if (heavy) {
      const sheet = new OffscreenCanvas(wide, high)
      draw(sheet.getContext('2d')!, ratio, look, shows.laid(), parts.value, stitches.value, outlines.value)
      pictured?.bitmap.close()
      pictured = { bitmap: sheet.transferToImageBitmap(), view, width, height }
      context.setTransform(1, 0, 0, 1, 0, 0)
      context.clearRect(0, 0, wide, high)
      context.drawImage(pictured.bitmap, 0, 0)
      wholeAt = now
    } else draw(context, ratio, look, shows.laid(), parts.value, stitches.value, outlines.value)
    surface.value.dataset.drawn = String((drawings += 1))
  }
  let allDue = false
  function soon(whole: boolean) {
    allDue ||= whole
    frame ||= requestAnimationFrame(() => {
      const all = allDue
      allDue = false
      paint(all)
    })
  }
  onMounted(() => soon(true))
  onBeforeUnmount(() => {
    cancelAnimationFrame(frame)
    window.clearTimeout(rest)
  })
  watch(() => [shows.size(), shows.laid(), parts.value, stitches.value, outlines.value, shows.faint(), ground.value], () => soon(true))
  watch(() => shows.view(), () => soon(false))
}
