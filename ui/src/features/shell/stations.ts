/** The stations in the order of the work. */
import { tr } from '../../texts'
export const STATIONS = [
  { number: 1, name: 'top', label: tr('Top'), does: tr('Describe the quilt top and its zones') },
  { number: 2, name: 'fills', label: tr('Fills'), does: tr('Choose a fill for each zone') },
  { number: 3, name: 'balance', label: tr('Balance'), does: tr('How the quilt will look and feel') },
  { number: 4, name: 'kit', label: tr('Kit'), does: tr('Your foot, rulers and tools') },
  { number: 5, name: 'marks', label: tr('Marks'), does: tr('What to mark, and sheets to print') },
  { number: 6, name: 'stitch', label: tr('Stitch'), does: tr('The sewing order') },
  { number: 7, name: 'log', label: tr('Log'), does: tr('What was sewn, how true it is, what is left') },
] as const
