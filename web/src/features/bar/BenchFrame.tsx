import { Box } from '@mui/material'
import type { JobDocument } from '@neotaxis/core'
import type { ReactNode } from 'react'
import { CommandSearch } from './CommandSearch.tsx'
import { usePanelWidth } from './Foldable.tsx'
import { TopBar } from './TopBar.tsx'

interface Props {
  /** Without what is being dragged. */
  readonly job: JobDocument
  readonly id: string
  /** Height of the facts below the stage. */
  readonly facts: string
  /** What lies in the areas stack, stage and facts. */
  readonly children: ReactNode
}

/** A bench of the job: the bar on top, its stack at the left, the stage, and facts below it. */
export function BenchFrame({ job, id, facts, children }: Props) {
  const stack = usePanelWidth('steps', '300px')
  return (
    <Box
      component="main"
      sx={{
        display: 'grid',
        height: '100vh',
        gridTemplateRows: `52px minmax(0, 1fr) ${facts}`,
        gridTemplateColumns: `${stack} minmax(0, 1fr)`,
        gridTemplateAreas: '"bar bar" "stack stage" "stack facts"',
      }}
    >
      <Box sx={{ gridArea: 'bar' }}>
        <TopBar job={job} id={id} />
      </Box>
      {children}
      <CommandSearch />
    </Box>
  )
}
