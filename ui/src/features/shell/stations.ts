/** The stations that work, in the order of the work. */
export const STATIONS = [
  { number: 1, name: 'fills', label: 'Fills', does: 'choose how each zone is filled' },
  { number: 2, name: 'kit', label: 'Kit', does: 'your foot and your ruler' },
  { number: 3, name: 'marks', label: 'Marks', does: 'what to draw, and sheets to print' },
] as const
