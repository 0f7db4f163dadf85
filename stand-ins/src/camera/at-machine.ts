import { connect } from 'node:net'
import type { Part } from './mask.ts'
import type { Burn, Thing } from './photo.ts'

/** Where a camera hangs: over the bed of a simulated machine. */
export interface OverMachine {
  /** The port of the machine's outside, on loopback. */
  readonly panel: number
  /** How deep its bed is, mm. */
  readonly deepMm: number
  /** The machine counts from its front; else from its rear. */
  readonly fromFront: boolean
}

/** How materials look from above. */
const LOOKS: Readonly<Record<string, Thing['look']>> = {
  'birch-ply': 'ply',
  'lime-wood': 'ply',
  'cast-acrylic': 'acrylic',
  'grey-card': 'card',
  slate: 'slate',
}
/** What is burned is looked at in cells of this side, so far around what lies there, mm. */
const CELL_MM = 0.15
const AROUND_MM = 2
/** Seen from near, in finer ones. */
export const NEAR_CELL_MM = 0.03
/** A machine that says nothing for so long is not asked further. */
const WAITS_MS = 20_000

/** Asks a machine's outside for something; what it says holds what is wanted. */
function asked<T>(port: number, request: object): Promise<T> {
  return new Promise((resolve, reject) => {
    const pieces: Buffer[] = []
    const socket = connect(port, '127.0.0.1', () => socket.write(`${JSON.stringify(request)}\n`))
    socket.setTimeout(WAITS_MS, () => socket.destroy())
    socket.once('error', reject)
    socket.once('close', () => reject(new Error('The machine said nothing.')))
    socket.on('data', (data) => {
      pieces.push(data)
      if (data[data.length - 1] !== 10) return
      socket.destroy()
      try {
        resolve(JSON.parse(Buffer.concat(pieces).toString('utf8')) as T)
      } catch (cause) {
        reject(cause)
      }
    })
  })
}

interface LaidThere {
  readonly material: string
  readonly thickness: number
  readonly x0: number
  readonly y0: number
  readonly x1: number
  readonly y1: number
  readonly edge?: readonly (readonly number[])[]
}

/** Where the head of a machine stands over the bed, mm; z as the machine tells it. */
export async function headOf({ panel, deepMm, fromFront }: OverMachine): Promise<{ x: number; y: number; z: number }> {
  const { status } = await asked<{ status: string }>(panel, { do: 'state' })
  const [x, y, z] = (/\|at ([-\d.]+),([-\d.]+),([-\d.]+)/.exec(status)?.slice(1) ?? []).map(Number)
  return { x, y: fromFront ? deepMm - y : y, z }
}

/**
 * What lies in a machine and what was burned on it, as it lies on the bed; nothing where nothing lies there.
 * @param near a part of the bed that is looked at from near
 */
export async function seenInMachine(
  { panel, deepMm, fromFront }: OverMachine,
  near?: Part,
): Promise<{ readonly things: readonly Thing[]; readonly burn?: Burn }> {
  const cell = near ? NEAR_CELL_MM : CELL_MM
  const { laid } = await asked<{ laid: LaidThere | null }>(panel, { do: 'state' })
  if (!laid) return { things: [] }
  const down = (y: number): number => (fromFront ? deepMm - y : y)
  const { x0, y0, x1, y1, edge = [[x0, y0, x1, y0, x1, y1, x0, y1]] } = laid
  const rings = edge.map((ring) => ring.map((v, i) => (i % 2 === 0 ? v : down(v))))
  const thing: Thing = { rings, thicknessMm: laid.thickness, look: LOOKS[laid.material] ?? 'card' }
  // In the machine's own mm.
  const part = near && { ...near, y0: Math.min(down(near.y0), down(near.y1)), y1: Math.max(down(near.y0), down(near.y1)) }
  const [x, y] = [Math.max(0, part?.x0 ?? 0, x0 - AROUND_MM), Math.max(0, part?.y0 ?? 0, y0 - AROUND_MM)]
  const columns = Math.ceil((Math.min(part?.x1 ?? Infinity, x1 + AROUND_MM) - x) / cell)
  const rows = Math.ceil((Math.min(part?.y1 ?? Infinity, y1 + AROUND_MM) - y) / cell)
  if (!(columns > 0 && rows > 0)) return { things: [thing] }
  const seen = await asked<{ ok: boolean; tone: string; through: string }>(panel, {
    do: 'burned',
    x,
    y,
    columns,
    rows,
    cell,
    soft: near !== undefined,
  })
  if (!seen.ok) return { things: [thing] }
  // Rows come from where y is most: from the rear where it counts from the front.
  const turned = (text: string): Uint8Array => {
    const map = new Uint8Array(Buffer.from(text, 'base64'))
    if (fromFront) return map
    const out = new Uint8Array(map.length)
    for (let r = 0; r < rows; r++) out.set(map.subarray((rows - 1 - r) * columns, (rows - r) * columns), r * columns)
    return out
  }
  const top = fromFront ? deepMm - y - rows * cell : y
  const burn = { x, y: top, cell, columns, rows, tone: turned(seen.tone), through: turned(seen.through) }
  return { things: [thing], burn }
}
