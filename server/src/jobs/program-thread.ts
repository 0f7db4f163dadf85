// Runs in a worker thread: reads a program, and makes a job of it; a sentence where it is none.
import { parentPort, workerData } from 'node:worker_threads'
import { MACHINES, MATERIALS, programJob, readProgram } from '@neotaxis/core'

const { bytes, name, asset } = workerData.data as { bytes: Uint8Array; name: string; asset: string }
const read = readProgram(new TextDecoder('latin1').decode(bytes))
const stops = read.problems.filter(({ severity }) => severity === 'stop').length
const workpiece = { widthMm: 300, heightMm: 200, thicknessMm: MATERIALS[0].thicknessMm }
parentPort!.postMessage(
  read.moves.count === 0 || (read.box === null && stops > 0)
    ? 'This is no program that a laser could run: no moves were found in it.'
    : programJob(name, asset, read, { workpiece, material: MATERIALS[0], machine: MACHINES[0] }),
)
