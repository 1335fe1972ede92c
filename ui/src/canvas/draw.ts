/** Draws the quilt on a canvas: patches grouped by color, seams, stitches. Handles no clicks. */
import type { Views } from '../api/client'
import type { Laid } from './scene'
import type { Box, Placing, View } from './view'

/** The drawing context, on the screen or off it. */
export type Pen = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D

export interface Cloth {
  colour: string
  path: Path2D
}

/** A part ready to be filled: one path for each color, and one for all its seams. */
export interface Drawn {
  cloths: Cloth[]
  seams: Path2D
}

export interface Stitches {
  path: Path2D
  /** an illustration of a freehand texture, no exact line */
  hints?: Path2D
  places: Laid[]
  chosen: boolean
}

/** The outline of a zone at all its places. */
export interface Outline {
  path: Path2D
  places: Laid[]
}

export interface Ground {
  image: CanvasImageSource
  /** the placing of the picture's subject, its width and height in mm */
  at: Placing
  width: number
  height: number
  /** its subject: a block's place, or `top` */
  place: string
  /** how strongly it shows through the fabrics, 0 to 1 */
  strength: number
}

export interface Look {
  width: number
  height: number
  view: View
  ground?: Ground
  stitchMm: number
  faint: boolean
}

export function add(path: Path2D, points: number[], closed: boolean) {
  for (let k = 0; k < points.length; k += 2) {
    if (k) path.lineTo(points[k]!, points[k + 1]!)
    else path.moveTo(points[k]!, points[k + 1]!)
  }
  if (closed) path.closePath()
}

export function drawnPart(part: Views['PartView'], fabrics: Views['QuiltView']['fabrics']): Drawn {
  const seams = new Path2D()
  const byColour = new Map<string, Path2D>()
  for (const patch of part.patches) {
    const colour = fabrics[patch.fabric]?.colour ?? '#cccccc'
    const path = byColour.get(colour) ?? new Path2D()
    byColour.set(colour, path)
    for (const ring of patch.rings) {
      add(path, ring, true)
      add(seams, ring, true)
    }
  }
  return { cloths: [...byColour].map(([colour, path]) => ({ colour, path })), seams }
}

const seen = (box: Box, look: Look) => {
  const { scale, x, y } = look.view
  return x + box.right * scale >= 0 && x + box.left * scale <= look.width && y - box.bottom * scale >= 0 && y - box.top * scale <= look.height
}

/** Draws everything visible: one fill for each color and place, one stroke for its seams, one for its stitches. */
export function draw(context: Pen, ratio: number, look: Look, laid: Laid[], parts: Map<string, Drawn>, stitches: Stitches[], outlines: Outline[]) {
  const { view } = look
  const place = ([a, b, c, d, e, f]: Placing) => {
    const s = view.scale * ratio
    context.setTransform(a! * s, -b! * s, c! * s, -d! * s, (view.x + e! * view.scale) * ratio, (view.y - f! * view.scale) * ratio)
  }
  context.setTransform(1, 0, 0, 1, 0, 0)
  context.clearRect(0, 0, look.width * ratio, look.height * ratio)
  if (look.ground && look.ground.strength > 0) {
    const { image, at, width, height } = look.ground
    place(at)
    context.transform(1, 0, 0, -1, 0, height)
    context.drawImage(image, 0, 0, width, height)
  }
  context.lineJoin = 'round'
  for (const item of laid) {
    const drawn = parts.get(item.part.key)
    if (!drawn || !seen(item.box, look)) continue
    place(item.at)
    const over = look.ground && (look.ground.place === 'top' || look.ground.place === item.place)
    context.globalAlpha = over ? 1 - look.ground!.strength : 1
    for (const cloth of drawn.cloths) {
      context.fillStyle = cloth.colour
      context.fill(cloth.path, 'evenodd')
    }
    context.globalAlpha = 1
    context.lineWidth = 0.9 / view.scale
    context.strokeStyle = 'rgba(110, 104, 90, .6)'
    context.stroke(drawn.seams)
  }
  drawStitches(context, look, stitches, place)
  context.strokeStyle = 'rgba(43, 58, 103, .75)'
  context.lineWidth = 1.6 / view.scale
  for (const { path, places } of outlines) {
    for (const item of places) {
      if (!seen(item.box, look)) continue
      place(item.at)
      context.stroke(path)
    }
  }
}

function drawStitches(context: Pen, look: Look, stitches: Stitches[], place: (at: Placing) => void) {
  const near = look.stitchMm * look.view.scale >= 3.2
  context.setLineDash(near ? [look.stitchMm * 0.74, look.stitchMm * 0.26] : [])
  for (const set of stitches) {
    context.strokeStyle = look.faint ? 'rgba(92, 100, 112, .35)' : set.chosen ? '#2b3a67' : 'rgba(43, 58, 103, .8)'
    context.lineWidth = (look.faint ? 0.9 : set.chosen ? 1.5 : 1.1) / look.view.scale
    for (const item of set.places) {
      if (!seen(item.box, look)) continue
      place(item.at)
      context.stroke(set.path)
      if (!set.hints) continue
      context.globalAlpha = 0.5
      context.stroke(set.hints)
      context.globalAlpha = 1
    }
  }
  context.setLineDash([])
}
