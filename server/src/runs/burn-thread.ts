// Runs in a worker thread: packs what was burned into a PNG, in the orientation of the job.
import { parentPort, workerData } from 'node:worker_threads'
import { encodePng } from '@neotaxis/core'

const { tone, through, columns, rows, flip } = workerData.data as {
  tone: Uint8Array
  through: Uint8Array
  columns: number
  rows: number
  /** The picture comes from the rear to the front; where the zero lies at the rear, the job's first row comes last. */
  flip: boolean
}
const samples = new Uint8Array(columns * rows * 3)
for (let r = 0; r < rows; r++) {
  const from = flip ? rows - 1 - r : r
  for (let c = 0; c < columns; c++) {
    samples[3 * (r * columns + c)] = tone[from * columns + c]
    samples[3 * (r * columns + c) + 1] = through[from * columns + c]
  }
}
parentPort!.postMessage(encodePng({ widthPx: columns, heightPx: rows, channels: 3, samples, full: 255 }))
