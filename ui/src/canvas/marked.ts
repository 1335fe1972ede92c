/** What is marked of a zone, in the coordinates of its part; flat x, y lists, mm. */
export interface Marked {
  strokes: number[][]
  dots: number[][]
  signs: { at: number[]; strokes: number[][] }[]
  laid: { round: number; corners: number[]; sewn: number[][] }[]
  stands_for: 'sewn line' | 'ruler edge'
}
export const NOTHING_MARKED: Marked = { strokes: [], dots: [], signs: [], laid: [], stands_for: 'sewn line' }
