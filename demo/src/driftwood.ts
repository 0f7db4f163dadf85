import { assetsSupply, blankPieces, fittedToPiece, type JobDocument, onBlanks, type SeenBlank, withProcess } from '@neotaxis/core'

/** How thick the slab is that lies under the camera, mm. */
export const DRIFTWOOD_MM = 12
/** So far from the edge of the slab the heron keeps, mm. */
const MARGIN_MM = 16

/** It stands about upright, as the wood lies: degrees. */
const UPRIGHT = Array.from({ length: 13 }, (_, i) => 5 * i - 30)

/** The heron on a slab of driftwood as the camera saw it, as large as it goes there. @param heron its job @param bytes its photo */
export function driftwoodJob(heron: JobDocument, bytes: Uint8Array, blanks: readonly SeenBlank[]): JobDocument {
  const [cut] = Object.keys(heron.operations)
  const standing: JobDocument = {
    ...heron,
    name: 'Heron on driftwood',
    operations: { [cut]: { ...heron.operations[cut], of: ['clean'] } },
  }
  const { around: _, ...nodes } = withProcess(standing, cut, 'area').nodes
  const filled = { ...withProcess(standing, cut, 'area'), nodes }
  const on = onBlanks(filled, blankPieces(blanks).slice(0, 1), DRIFTWOOD_MM, [])
  const named = { ...on, workpieces: { piece: { ...on.workpieces.piece, name: 'driftwood' } } }
  const fitted = fittedToPiece(
    named,
    'clean',
    assetsSupply(() => bytes),
    { marginMm: MARGIN_MM, angles: UPRIGHT },
  )
  return 'fits' in fitted ? named : fitted.job
}
