import type { Machine } from '@neotaxis/core'
import type { Written } from '../field/measures.ts'

type Curve = Machine['powerCurve']

/** A power curve as it is typed: “10: 0, 50: 26, 100: 57”, % and W. */
export const POWER_CURVE: Written<Curve> = {
  unit: '',
  show: (curve) => curve.map(({ power, watts }) => `${Number((power * 100).toFixed(2))}: ${watts}`).join(', '),
  read: (typed) => {
    const points = typed
      .split(',')
      .filter((part) => part.trim() !== '')
      .map((part) => part.split(':').map((n) => Number(n.replace('%', '').trim())))
    if (!points.every(([p, w]) => p > 0 && p <= 100 && w >= 0)) throw new Error('Write it as 10: 0, 50: 26, 100: 57.')
    return points.map(([p, w]) => ({ power: p / 100, watts: w })).sort((l, r) => l.power - r.power)
  },
}
