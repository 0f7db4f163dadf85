import { type JobDocument, mainPiece, mainPieceId, withPiece } from '../job/document/document.ts'
import type { Arch } from '../job/document/workpiece.ts'

/** The job on a piece whose face is curved across, or flat again. What turns is round already. */
export const withArch = (job: JobDocument, arch: Arch | undefined): JobDocument =>
  mainPiece(job).surface.kind === 'flat'
    ? withPiece(job, { surface: arch ? { kind: 'flat', arch } : { kind: 'flat' } }, mainPieceId(job))
    : job
