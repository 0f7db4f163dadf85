import { Tooltip } from '@mui/material'
import type { NodeStep, StretchStep } from '@neotaxis/core'
import { useEffect } from 'react'
import { Row } from '../../parts/Row.tsx'
import { ToolToggle } from '../../parts/ToolToggle.tsx'
import { onCommand } from '../bar/commands.ts'

/** What a press on the outline does. */
export type OutlineTool =
  | { readonly kind: 'erase' }
  | { readonly kind: 'stretch'; readonly as: StretchStep['as'] }
  | { readonly kind: 'node'; readonly change: NodeStep['change'] }
  | { readonly kind: 'start' }
  | { readonly kind: 'bridge' }

interface Props {
  readonly tool: OutlineTool | null
  readonly onTool: (tool: OutlineTool | null) => void
}

const TOOLS: readonly { readonly id: string; readonly words: string; readonly hint: string; readonly tool: OutlineTool }[] = [
  {
    id: 'erase',
    words: 'take away',
    hint: 'Press an outline, or draw a box: what is inside goes; with Shift, what the box touches',
    tool: { kind: 'erase' },
  },
  {
    id: 'straight',
    words: 'straighten',
    hint: 'Press two places of one outline: straight between them',
    tool: { kind: 'stretch', as: 'straight' },
  },
  {
    id: 'smooth-stretch',
    words: 'smooth out',
    hint: 'Press two places: one curve between them',
    tool: { kind: 'stretch', as: 'smooth' },
  },
  {
    id: 'refit',
    words: 'fit anew',
    hint: 'Press two places: bumps between them go, the course stays',
    tool: { kind: 'stretch', as: 'refitted' },
  },
  { id: 'gone', words: 'open', hint: 'Press two places: the stretch between them goes', tool: { kind: 'stretch', as: 'gone' } },
  { id: 'move', words: 'move nodes', hint: 'Drag a node', tool: { kind: 'node', change: 'move' } },
  { id: 'add', words: '+ node', hint: 'Press the outline where a node shall be', tool: { kind: 'node', change: 'add' } },
  { id: 'remove', words: '− node', hint: 'Press a node', tool: { kind: 'node', change: 'remove' } },
  { id: 'corner', words: 'corner', hint: 'Press a node: it becomes a corner', tool: { kind: 'node', change: 'corner' } },
  {
    id: 'smooth',
    words: 'smooth',
    hint: 'Press a node: the line runs smoothly through it',
    tool: { kind: 'node', change: 'smooth' },
  },
  {
    id: 'bridge',
    words: 'bridge',
    hint: 'Press the edge of a piece that shall not fall: a strip holds it',
    tool: { kind: 'bridge' },
  },
  { id: 'start', words: 'begin here', hint: 'Press a closed outline where its cut shall begin', tool: { kind: 'start' } },
]

const same = (a: OutlineTool | null, b: OutlineTool): boolean => a !== null && JSON.stringify(a) === JSON.stringify(b)

/** What can be done to the outline by hand. */
export function OutlineTools({ tool, onTool }: Props) {
  useEffect(() =>
    onCommand(
      Object.fromEntries(TOOLS.map(({ id, tool: each }) => [`tool-${id}`, () => onTool(each)])),
      TOOLS.map(({ id, words, hint }) => ({ id: `tool-${id}`, title: `Tool: ${words}`, words: hint })),
    ),
  )
  return (
    <Row gap="tight" wraps>
      {TOOLS.map(({ id, words, hint, tool: each }) => (
        <Tooltip key={id} title={hint}>
          <ToolToggle
            value={id}
            selected={same(tool, each)}
            onChange={() => onTool(same(tool, each) ? null : each)}
            data-testid={`tool-${id}`}
          >
            {words}
          </ToolToggle>
        </Tooltip>
      ))}
    </Row>
  )
}
