import type { JobDocument } from '../job/document/document.ts'
import type { Operation, ProcessName } from '../job/document/operation.ts'
import { type BurnedPiece, burnedPieces } from '../job/document/pieces.ts'
import type { Supply } from '../lineage/supply.ts'
import { area } from './area/area.ts'
import { cut } from './cut/cut.ts'
import { guide } from './guide/guide.ts'
import { picture } from './picture/picture.ts'
import type { Burning, Process } from './process.ts'
import { program } from './program/program.ts'
import { relief } from './relief/relief.ts'
import { score } from './score/score.ts'

/** Every process there is: one line each. */
const ALL = [cut, score, area, picture, relief, guide, program]

/** Processes by name. */
export const PROCESSES = Object.fromEntries(ALL.map((process) => [process.name, process])) as unknown as Readonly<
  Record<ProcessName, Process>
>

/** Names of all processes, in the order of the table. */
export const PROCESS_NAMES: readonly ProcessName[] = ALL.map(({ name }) => name)

/** The process of an operation. */
export const processOf = ({ process }: Pick<Operation, 'process'>): Process => PROCESSES[process]

/** What a process needs to burn a piece. */
export const burningOf = (job: JobDocument, id: string, piece: BurnedPiece, supply: Supply): Burning => ({
  job,
  id,
  operation: job.operations[id],
  piece,
  supply,
})

/** The same for all pieces of an operation. @param workpiece only those that lie on it */
export const burningsOf = (job: JobDocument, id: string, supply: Supply, workpiece?: string): Burning[] =>
  burnedPieces(job, job.operations[id], id)
    .filter(({ workpieceId }) => workpiece === undefined || workpieceId === workpiece)
    .map((piece) => burningOf(job, id, piece, supply))
