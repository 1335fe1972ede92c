/** How a sheet is wanted. */
import type { Views } from '../../api/client'

export interface Sheet {
  paper: Views['MarksRequest']['paper']
  kind: Views['MarksRequest']['kind']
  scope: Views['MarksRequest']['scope']
  back: boolean
  printer: string
}

export const PAPERS = [['letter', 'Letter'], ['a4', 'A4'], ['tabloid', 'Tabloid'], ['a3', 'A3'], ['roll', 'Roll, 24 in']] as const
export const KINDS = [
  ['stitched lines', 'the lines', 'the lines as they are sewn'],
  ['ruler edges', 'the ruler’s edge', 'where the ruler’s edge goes: your foot beside each line'],
  ['pounce', 'holes to pounce', 'holes to prick and pat powder through'],
  ['light box', 'bold', 'bold, to be seen through the fabric on a light box'],
] as const
