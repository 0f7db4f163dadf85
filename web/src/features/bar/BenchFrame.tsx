import type { JobDocument } from '@neotaxis/core'
import type { ReactNode } from 'react'
import { Area, Frame } from '../../parts/Frame.tsx'
import { useTextFollows } from '../draw/use-text-follows.ts'
import { CommandSearch } from './CommandSearch.tsx'
import { usePanelWidth } from './Foldable.tsx'
import { TopBar } from './TopBar.tsx'

interface Props {
  /** Without what is being dragged. */
  readonly job: JobDocument
  readonly id: string
  /** Height of the facts below the stage; absent: a bench without stack and facts, its stage alone. */
  readonly facts?: string
  /** What lies in the areas stack, stage and facts. */
  readonly children: ReactNode
}

/** A bench of the job: the bar on top, its stack at the left, the stage, and facts below it. */
export function BenchFrame({ job, id, facts, children }: Props) {
  const stack = usePanelWidth('steps', '300px')
  useTextFollows()
  return (
    <Frame
      rows={`52px minmax(0, 1fr) ${facts ?? ''}`}
      columns={facts ? `${stack} minmax(0, 1fr)` : 'minmax(0, 1fr)'}
      areas={facts ? '"bar bar" "stack stage" "stack facts"' : '"bar" "stage"'}
    >
      <Area name="bar">
        <TopBar job={job} id={id} />
      </Area>
      {children}
      <CommandSearch />
    </Frame>
  )
}
