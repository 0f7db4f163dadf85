import { MenuItem, Slider, TextField } from '@mui/material'
import { type JobDocument, lookedAlong, type MeshNode, type ViewAxis, withNode } from '@neotaxis/core'
import { useEffect, useState } from 'react'
import { Quiet } from '../../parts/words.tsx'
import { meshExtents } from '../../workers/engine.ts'
import { useChange, useEdit } from '../use-edit.ts'

const VIEWS: readonly (readonly [ViewAxis, string])[] = [
  ['+z', 'from above'],
  ['-z', 'from below'],
  ['-y', 'from the front'],
  ['+y', 'from the rear'],
  ['-x', 'from the left'],
  ['+x', 'from the right'],
]

const percent = (v: number): string => `${Math.round(v * 100)} %`

export const meshWords = ({ axis, near, far }: MeshNode): string =>
  `${VIEWS.find(([view]) => view === axis)?.[1]} · depth ${percent(near)} to ${percent(far)}`

/** Which way a mesh is looked at, and which part of its depth is used. */
export function MeshControls({ job, id }: { readonly job: JobDocument; readonly id: string }) {
  const edit = useEdit()
  const { show, finish } = useChange()
  const [extents, setExtents] = useState<Awaited<ReturnType<typeof meshExtents>>>()
  // biome-ignore lint/correctness/useExhaustiveDependencies: a mesh does not change
  useEffect(() => {
    meshExtents(job, id).then(setExtents, () => {})
  }, [id])
  const node = job.nodes[id]
  if (node.kind !== 'mesh') return null
  const extent = extents?.[node.axis]
  return (
    <>
      <TextField
        select
        size="small"
        fullWidth
        label="Seen"
        value={node.axis}
        disabled={!extents}
        onChange={(event) => {
          const axis = event.target.value as ViewAxis
          if (extents) edit('see the mesh another way', (base) => lookedAlong(base, id, axis, extents[node.axis], extents[axis]))
        }}
        data-testid="mesh-axis"
        margin="dense"
      >
        {VIEWS.map(([axis, name]) => (
          <MenuItem key={axis} value={axis} disabled={extents && !(extents[axis].depth > 0 && extents[axis].height > 0)}>
            {name}
          </MenuItem>
        ))}
      </TextField>
      <Quiet top="snug">
        Depth that is used{extent ? `, of ${extent.depth.toFixed(1)} mm` : ''}: {percent(node.near)} to {percent(node.far)}
      </Quiet>
      <Slider
        size="small"
        value={[node.near * 100, node.far * 100]}
        min={0}
        max={100}
        disableSwap
        getAriaLabel={(i) => (i === 0 ? 'Nearest depth' : 'Farthest depth')}
        onChange={(_, value) => {
          const [near, far] = value as number[]
          if (far - near >= 1) show((base) => withNode(base, id, { near: near / 100, far: far / 100 }))
        }}
        onChangeCommitted={() => finish('depth that is used')}
        sx={{ display: 'block', width: 'calc(100% - 14px)', mx: 'auto' }}
      />
    </>
  )
}
