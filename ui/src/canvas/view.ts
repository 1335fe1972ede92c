/** The screen transform: quilt millimetres (y up) to pixels (y down). The only geometry of the browser. */

export interface View {
  /** pixels a millimetre */
  scale: number
  /** the quilt's lower left corner on the screen, pixels */
  x: number
  y: number
}

export interface Box {
  left: number
  bottom: number
  right: number
  top: number
}

export type Placing = number[]

export const LEAST_SCALE = 0.02
export const MOST_SCALE = 24

/** `box` fitted into a pane of `width` by `height` pixels with a margin all around. */
export function fit(box: Box, width: number, height: number, margin: number): View {
  const wide = Math.max(box.right - box.left, 1)
  const high = Math.max(box.top - box.bottom, 1)
  const room = Math.min((width - 2 * margin) / wide, (height - 2 * margin) / high)
  const scale = Math.min(Math.max(room, LEAST_SCALE), MOST_SCALE)
  return {
    scale,
    x: width / 2 - ((box.left + box.right) / 2) * scale,
    y: height / 2 + ((box.bottom + box.top) / 2) * scale,
  }
}

/** Zoomed by `factor` about the pixel (px, py). */
export function zoomed(view: View, factor: number, px: number, py: number): View {
  const scale = Math.min(Math.max(view.scale * factor, LEAST_SCALE), MOST_SCALE)
  const by = scale / view.scale
  return { scale, x: px - (px - view.x) * by, y: py - (py - view.y) * by }
}

export function toScreen(view: View, x: number, y: number): [number, number] {
  return [view.x + x * view.scale, view.y - y * view.scale]
}

export function toQuilt(view: View, px: number, py: number): [number, number] {
  return [(px - view.x) / view.scale, (view.y - py) / view.scale]
}

/** A part's point in the quilt's coordinates. */
export function placed([a, b, c, d, e, f]: Placing, x: number, y: number): [number, number] {
  return [a! * x + c! * y + e!, b! * x + d! * y + f!]
}

/** A quilt's point in the part's coordinates; the motion is rigid, so its inverse is its transpose. */
export function unplaced([a, b, c, d, e, f]: Placing, x: number, y: number): [number, number] {
  return [a! * (x - e!) + b! * (y - f!), c! * (x - e!) + d! * (y - f!)]
}

export function boxOf(placing: Placing, width: number, height: number): Box {
  const corners = [placed(placing, 0, 0), placed(placing, width, 0), placed(placing, 0, height), placed(placing, width, height)]
  const xs = corners.map((corner) => corner[0])
  const ys = corners.map((corner) => corner[1])
  return { left: Math.min(...xs), right: Math.max(...xs), bottom: Math.min(...ys), top: Math.max(...ys) }
}

export const matrix = (placing: Placing) => `matrix(${placing.join(' ')})`
