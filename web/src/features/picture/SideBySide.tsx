import { Button, type SxProps, Tooltip } from '@mui/material'
import { type JobDocument, pictureNode, pictureOperation, reliefOperation } from '@neotaxis/core'
import { useNavigate, useParams } from 'react-router'
import { useEdit } from '../use-edit.ts'
import { newId } from './pointer.ts'

/** The job with one operation run in the place of another, which is put aside with its settings. */
const inPlaceOf = (job: JobDocument, id: string, old: string): JobDocument => ({
  ...job,
  runOrder: job.runOrder.filter((each) => each !== id).map((each) => (each === old ? id : each)),
})

/**
 * The same source as dots and as relief: goes from one to the other, and makes the other one first where there is none.
 * Only one of them runs; the other one waits on the shelf.
 */
export function SideBySide({
  job,
  node,
  operationId,
  sx,
}: {
  readonly job: JobDocument
  readonly node: string
  /** The operation that burns this picture now. */
  readonly operationId: string
  readonly sx: SxProps
}) {
  const edit = useEdit()
  const navigate = useNavigate()
  const { id = '' } = useParams()
  const picture = pictureNode(job, node)
  const relief = picture.dots.kernel === 'none'
  const other = Object.entries(job.nodes).find(
    ([key, each]) =>
      key !== node && each.kind === 'picture' && each.from === picture.from && (each.dots.kernel === 'none') !== relief,
  )?.[0]
  const go = (): void => {
    const name = relief ? 'as dots' : 'as relief'
    const kept = other && Object.keys(job.operations).find((key) => job.operations[key].node === other)
    if (other && kept) {
      if (!job.runOrder.includes(kept)) edit(name, (base) => inPlaceOf(base, kept, operationId))
      void navigate(`/jobs/${id}/picture/${other}`)
      return
    }
    const made = newId()
    edit(name, (base) => {
      const from = pictureNode(base, node)
      const nodes = {
        ...base.nodes,
        [made]: {
          ...from,
          name: relief ? 'dots' : 'relief',
          dots: { ...from.dots, asPrepared: false, kernel: relief ? ('floyd-steinberg' as const) : ('none' as const) },
        },
      }
      const burn = (relief ? pictureOperation : reliefOperation)(made, base.material, base.machine)
      const key = newId()
      return inPlaceOf({ ...base, nodes, operations: { ...base.operations, [key]: burn } }, key, operationId)
    })
    void navigate(`/jobs/${id}/picture/${made}`)
  }
  return (
    <Tooltip title={`The same source as ${relief ? 'dots' : 'relief'}, to compare`}>
      <Button sx={sx} onClick={go} data-testid="other-way">
        {relief ? 'as dots' : 'as relief'}
      </Button>
    </Tooltip>
  )
}
