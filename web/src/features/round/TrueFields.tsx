import { canLieTrue, isTrueToFace, type JobDocument, mainPiece, widestMm, withTrueToFace } from '@neotaxis/core'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { Quiet } from '../../parts/words.tsx'
import { useEdit } from '../use-edit.ts'

/** Whether artwork keeps its shape on a taper or a curve, or follows it. */
export function TrueFields({ job, node }: { readonly job: JobDocument; readonly node: string }) {
  const edit = useEdit()
  const isTrue = isTrueToFace(job, node)
  const piece = mainPiece(job)
  if (isTrue === undefined || !canLieTrue(piece)) return null
  const { surface } = piece
  const follows =
    surface.kind === 'flat'
      ? 'As seen from above: beside the crown it comes out longer on the face than it is drawn.'
      : `Lines of text run level with the rim, and it narrows with the taper: drawn as at Ø ${Number(widestMm(surface).toFixed(1))} mm.`
  return (
    <>
      <SwitchRow
        label={surface.kind === 'flat' ? 'True to size on the curve' : 'True to shape on the taper'}
        on={isTrue}
        onSwitch={(on) => edit(on ? 'true to its shape' : 'following the face', (base) => withTrueToFace(base, node, on))}
        testId="true-to-face"
      />
      <Quiet>{isTrue ? 'On the piece it is as large and as straight as it is drawn.' : follows}</Quiet>
    </>
  )
}
