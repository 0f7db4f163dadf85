import { styled } from '@mui/material'
import type { ReactNode } from 'react'
import { SPACE, TYPE } from '../theme/tokens.ts'
import { Name, Quiet } from './words.tsx'

const Line = styled('div')(({ theme: { palette } }) => ({
  display: 'flex',
  gap: SPACE.snug,
  padding: `${SPACE.snug}px 0`,
  borderBottom: `1px solid ${palette.divider}`,
}))

/** A fact on a line of its own: what it is, and its value against the other side. */
export const Fact = ({ name, children }: { readonly name: ReactNode; readonly children: ReactNode }) => (
  <Line>
    <span>{name}</span>
    <b style={{ marginLeft: 'auto' }}>{children}</b>
  </Line>
)

interface FigureProps {
  readonly name: string
  readonly value: ReactNode
  readonly more?: ReactNode
  readonly testId?: string
}

/** A fact among others beside it: its name over it, what else is known under it. */
export const Figure = ({ name, value, more, testId }: FigureProps) => (
  <div style={{ whiteSpace: 'nowrap' }} data-testid={testId}>
    <Quiet weight="strong">{name}</Quiet>
    <Name style={{ fontSize: TYPE.figure, lineHeight: 1.25 }}>{value}</Name>
    {more !== undefined && <Quiet>{more}</Quiet>}
  </div>
)
