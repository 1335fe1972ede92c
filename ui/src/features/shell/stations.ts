/** The stations that work, in the order of the work. */
export const STATIONS = [
  { number: 1, name: 'top', label: 'Top', does: 'lay out the quilt top and its zones' },
  { number: 2, name: 'fills', label: 'Fills', does: 'choose how each zone is filled' },
  { number: 3, name: 'kit', label: 'Kit', does: 'your foot and your ruler' },
  { number: 4, name: 'marks', label: 'Marks', does: 'what to draw, and sheets to print' },
  { number: 5, name: 'stitch', label: 'Stitch', does: 'the order in which it is sewn' },
] as const
