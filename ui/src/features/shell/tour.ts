/** Progress in the first steps, stored in this browser. 0: not offered yet, 1 to 6: under way, -1: never again. */
import { useLocalStorage } from '@vueuse/core'
import { tr } from '../../texts'

export const STEPS = [
  { on: 'fills', says: tr('Pick a zone: click a patch of the quilt, or a name in the list.') },
  { on: 'fills', says: tr('Choose a fill: press “Change fill” and take another, or go on with the one that is there.') },
  { on: 'fills', says: tr('Change the spacing with + and −, or type it. The sum below follows.') },
  { on: 'fills', says: tr('Press “Show the ruler”: it appears where you will put it, with the foot counted in.') },
  { on: 'marks', says: tr('Go to Marks: only these lines must be marked. Print the sheet if you like.') },
  { on: 'machine', says: tr('Go to Stitch and press “At the machine”: one step at a time, in large type.') },
] as const
export const useTour = () => useLocalStorage('kenzet-tour', 0)
