import { isRecord, type Stored } from './stored.ts'
import { withLenses } from './to-2.ts'

const pair = (of: unknown): readonly [unknown, unknown] => (isRecord(of) ? [of.x, of.y] : [undefined, undefined])

/** A machine profile of version 4 as it is now: what moves are axes, what is moved is a head. What is none comes back as it is. */
function withAxes(value: unknown): unknown {
  if (!isRecord(value) || 'axes' in value || !isRecord(value.bed)) return value
  const { kind, bed, maxSpeedMmS, accelerationMmS2, junctionDeviationMm, mirrors, focusTravelMm, ...rest } = value
  const { widthMm, heightMm } = bed as Stored
  const [vx, vy] = pair(maxSpeedMmS)
  const [ax, ay] = pair(accelerationMmS2)
  const lens = typeof focusTravelMm === 'number' && focusTravelMm > 0
  return {
    ...rest,
    axes: {
      x: { travelMm: widthMm, speedMmS: vx, accelerationMmS2: ax },
      y: { travelMm: heightMm, speedMmS: vy, accelerationMmS2: ay },
      ...(lens ? { z: { travelMm: focusTravelMm, speedMmS: 10, accelerationMmS2: 100 } } : {}),
    },
    head:
      kind === 'scan-head' ? { kind: 'mirrors', ...(isRecord(mirrors) ? mirrors : {}) } : { kind: 'gantry', junctionDeviationMm },
  }
}

/** A machine profile of any version as it is now. What is none comes back as it is, for the schema to refuse. */
export const bringUpMachine = (value: unknown): unknown => withAxes(withLenses(value))
