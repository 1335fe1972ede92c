/** The stations that work, in the order of the work. */
export const STATIONS = [
  { number: 1, name: 'top', label: 'Top', does: 'Describe the quilt top and its zones' },
  { number: 2, name: 'fills', label: 'Fills', does: 'Choose a fill for each zone' },
  { number: 3, name: 'balance', label: 'Balance', does: 'How the quilt will look and feel' },
  { number: 4, name: 'kit', label: 'Kit', does: 'Your foot, rulers and tools' },
  { number: 5, name: 'marks', label: 'Marks', does: 'What to mark, and sheets to print' },
  { number: 6, name: 'stitch', label: 'Stitch', does: 'The sewing order' },
  { number: 7, name: 'log', label: 'Log', does: 'What was sewn, how true it is, what is left' },
] as const
