import type { Drawn } from '@neotaxis/core'

/** What each kind of drawing begins with. */
export const FIRST: Readonly<Record<Drawn['kind'], Drawn>> = {
  text: {
    kind: 'text',
    text: 'Saltmere',
    font: { kind: 'strokes' },
    capMm: 8,
    letterMm: 0,
    lineShare: 1.6,
    align: 'left',
  },
  rectangle: { kind: 'rectangle', widthMm: 60, heightMm: 40, radiusMm: 3 },
  ellipse: { kind: 'ellipse', widthMm: 40, heightMm: 40 },
  polygon: { kind: 'polygon', sides: 6, diameterMm: 40 },
  star: { kind: 'star', points: 5, diameterMm: 40, innerShare: 0.45 },
  line: { kind: 'line', lengthMm: 60, angleDeg: 0 },
  arc: { kind: 'arc', diameterMm: 60, fromDeg: 180, sweepDeg: 180 },
  path: { kind: 'path', data: '' },
  code: { kind: 'code', text: 'NEOTAXIS', sizeMm: 20, onDark: false },
}
