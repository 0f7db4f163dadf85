import { Tooltip } from '@mui/material'
import type { JobDocument } from '@neotaxis/core'
import { memo } from 'react'
import { ToolToggle } from '../../parts/ToolToggle.tsx'
import { newId } from '../new-id.ts'
import { useEdit } from '../use-edit.ts'
import { otherName, otherWay, withOtherWay } from './other-way.ts'

interface Props {
  readonly job: JobDocument
  readonly node: string
  readonly on: boolean
  readonly onChange: (on: boolean) => void
}

/** The same source as dots and as relief, both burned, on either side of the edge. The other way is made where there is none. */
export const SideBySide = memo(function SideBySide({ job, node, on, onChange }: Props) {
  const edit = useEdit()
  const name = otherName(job, node)
  const change = (): void => {
    if (!on && !otherWay(job, node)) {
      const ids = { node: newId(), operation: newId() }
      edit(`as ${name} too`, (base) => withOtherWay(base, node, ids))
    }
    onChange(!on)
  }
  return (
    <Tooltip title={`The same source as ${name}, beside this`}>
      <ToolToggle value="beside" selected={on} onChange={change} data-testid="beside">
        beside {name}
      </ToolToggle>
    </Tooltip>
  )
})
