import { bedToAxes, checkJob, encodePng, mainPiece } from '@neotaxis/core'
import { atPanel } from '../machines/panel-client.ts'
import { Run, RunBurn } from '../models/runs.ts'

/** A picture of the burn has at most so many pixels, and none smaller than this, mm. */
const MAX_PIXELS = 32_000_000
const FINEST_MM = 0.05
/** Looked at around what was burned, mm. */
const AROUND_MM = 2

/** Looks at what a simulated machine burned, from above, and keeps it as a PNG in the orientation of the bed: in a thread. */
export async function burnPicture({ runId, panel }: { runId: string; panel: number }): Promise<void> {
  const run = await Run.findByPk(runId, { attributes: ['document', 'bounds'] })
  if (!run || run.bounds === null) return
  const job = checkJob(JSON.parse(run.document))
  const { machine } = job
  const { pose: onBed } = mainPiece(job)
  const [x0, y0, x1, y1] = JSON.parse(run.bounds) as [number, number, number, number]
  const width = x1 - x0 + 2 * AROUND_MM
  const height = y1 - y0 + 2 * AROUND_MM
  const cellMm = FINEST_MM * Math.max(1, Math.ceil(Math.sqrt((width * height) / MAX_PIXELS) / FINEST_MM))
  const columns = Math.ceil(width / cellMm)
  const rows = Math.ceil(height / cellMm)
  // On the grid of the simulated bed, so that nothing is sampled between its cells.
  const x = Math.max(0, Math.floor((x0 - AROUND_MM) / FINEST_MM) * FINEST_MM)
  const y = Math.max(0, Math.floor((y0 - AROUND_MM) / FINEST_MM) * FINEST_MM)
  const seen = await atPanel<{ tone: string; through: string }>(panel, { do: 'burned', x, y, columns, rows, cell: cellMm })
  // It comes from the rear to the front; where the zero lies at the rear, the job's first row comes last.
  const [, , , sign, , bedHeight] = bedToAxes(machine)
  const front = sign < 0
  const picture = packed(Buffer.from(seen.tone, 'base64'), Buffer.from(seen.through, 'base64'), columns, rows, !front)
  await RunBurn.upsert({
    runId,
    cellMm,
    x: x - onBed.xMm,
    y: front ? bedHeight - onBed.yMm - y - rows * cellMm : y - onBed.yMm,
    picture,
  })
}

/** Red is the tone, green what is cut through. */
function packed(tone: Uint8Array, through: Uint8Array, columns: number, rows: number, flip: boolean): Buffer {
  const samples = new Uint8Array(columns * rows * 3)
  for (let r = 0; r < rows; r++) {
    const from = flip ? rows - 1 - r : r
    for (let c = 0; c < columns; c++) {
      samples[3 * (r * columns + c)] = tone[from * columns + c]
      samples[3 * (r * columns + c) + 1] = through[from * columns + c]
    }
  }
  return Buffer.from(encodePng({ widthPx: columns, heightPx: rows, channels: 3, samples, full: 255 }))
}
