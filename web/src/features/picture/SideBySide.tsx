import { Button, type SxProps, Tooltip } from '@mui/material'
import { type JobDocument, type PictureOperation, pictureNode, pictureOperation, reliefOperation } from '@neotaxis/core'
import { useNavigate, useParams } from 'react-router'
import { useEdit } from '../use-edit.ts'
import { newId } from './pointer.ts'

/**
 * The same source as dots and as relief: goes from one to the other, and makes the other one first where there is none.
 * Only one of them runs; the other one waits on the shelf.
 */
export function SideBySide({
  job,
  node,
  operation,
  sx,
}: {
  readonly job: JobDocument
  readonly node: string
  readonly operation: PictureOperation | undefined
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
    if (other) return void navigate(`/jobs/${id}/picture/${other}`)
    const made = newId()
    edit(relief ? 'the same as dots' : 'the same as relief', (base) => {
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
      return { ...base, nodes, operations: { ...base.operations, [key]: burn }, runOrder: [...base.runOrder, key] }
    })
    void navigate(`/jobs/${id}/picture/${made}`)
  }
  if (!operation) return null
  return (
    <Tooltip title={`The same source as ${relief ? 'dots' : 'relief'}, to compare`}>
      <Button sx={sx} onClick={go} data-testid="other-way">
        {relief ? 'as dots' : 'as relief'}
      </Button>
    </Tooltip>
  )
}
