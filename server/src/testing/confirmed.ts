/** What is ticked before a run on birch ply of 3 mm: all that is routine, and the focus. */
export const CONFIRMED_ON_PLY: readonly string[] = [
  'workpiece',
  'fumes-birch-ply-3',
  'fire-birch-ply-3',
  'warning-0',
  'focus',
  'exhaust',
  'rotary',
  'cover',
  'people',
]
