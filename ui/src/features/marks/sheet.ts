/** The settings of a mark sheet. */
import type { Views } from '../../api/client'
import { tr } from '../../texts'

export interface Sheet {
  paper: Views['MarksRequest']['paper']
  kind: Views['MarksRequest']['kind']
  scope: Views['MarksRequest']['scope']
  back: boolean
  printer: string
}

export const PAPERS = [['letter', tr('Letter')], ['a4', 'A4'], ['tabloid', tr('Tabloid')], ['a3', 'A3'], ['roll', tr('Roll, 24 in')]] as const
export const KINDS = [
  ['stitched lines', tr('the lines'), tr('the lines as they are sewn')],
  ['ruler edges', tr('the ruler’s edge'), tr('where the ruler’s edge goes: your foot beside each line')],
  ['pounce', tr('holes to pounce'), tr('holes to prick and pat powder through')],
  ['light box', tr('bold'), tr('bold, to be seen through the fabric on a light box')],
] as const
