import { Box, ButtonBase } from '@mui/material'
import { formatLength, type JobDocument, type LineageNode } from '@neotaxis/core'
import type { MouseEvent } from 'react'
import { OrderDisc } from '../../parts/OrderDisc.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { EDGE } from '../../theme/tokens.ts'
import { useEvaluation } from '../../workers/use-evaluation.ts'
import { COMBINED } from '../outline/outline-words.ts'
import { dotsWords } from '../picture/step-words.ts'
import type { FamilyRow } from './family.ts'
import { Thumbnail } from './Thumbnail.tsx'

/** More operations than this are a number behind the first. */
const MOST_DISCS = 4

/** Height of a row, and what is free below it, CSS px. */
export const ROW_PX = 48
export const ROW_GAP_PX = 10
const STEP_PX = 15
/** Deeper ones stand under each other. */
const DEEPEST = 4

/** What shows a piece of artwork in small: what is drawn has no picture but its parts. */
function shownBy(job: JobDocument, id: string): string {
  const node = job.nodes[id]
  if (node.kind === 'picture' && job.nodes[node.from].kind === 'part') return node.from
  if (node.kind !== 'drawing') return id
  return (
    Object.keys(job.nodes).find((key) => {
      const each = job.nodes[key]
      return each.kind === 'part' && each.from === id
    }) ?? id
  )
}

function facts(node: LineageNode, unit: 'mm' | 'in'): string {
  switch (node.kind) {
    case 'source':
      return `picture · ${node.widthPx} × ${node.heightPx} px`
    case 'program':
      return 'program from a file'
    case 'picture':
      return dotsWords(node.dots)
    case 'mesh':
      return `mesh, seen along ${node.axis}`
    case 'trace':
      if (node.mode === 'colours') return `${node.chosen?.length ?? 0} of ${node.palette?.length ?? 0} colours`
      return `${node.mode ? 'lines' : node.channel === 'alpha' ? 'from transparency' : 'trace'} at ${Math.round(node.threshold * 100)} %`
    case 'drawing':
      return `drawing · ${formatLength(node.widthMm, unit)} × ${formatLength(node.heightMm, unit)}`
    case 'part':
      return `${node.looks.length} ${node.looks.length === 1 ? 'look' : 'looks'} of the drawing`
    case 'clean': {
      const on = node.order.filter((id) => node.steps[id].on).length
      return `cleaned up · ${on} ${on === 1 ? 'step' : 'steps'}`
    }
    case 'combine':
      return COMBINED[node.op]
    case 'bridged': {
      const n = Object.keys(node.bridges).length
      return `${n} ${n === 1 ? 'bridge' : 'bridges'}`
    }
    case 'clip':
      return `kept ${formatLength(node.marginMm, unit)} inside ${node.to === undefined ? 'the workpiece' : 'an outline'}`
    case 'offset':
      return `${node.outermost ? 'outermost, ' : ''}${formatLength(node.distanceMm, unit)}`
  }
}

interface Props {
  readonly job: JobDocument
  readonly row: FamilyRow
  readonly chosen: boolean
  /** Where in the order its operations come, and how many there are in all. */
  readonly burns: readonly number[]
  readonly total: number
  readonly onPick: (event: MouseEvent) => void
  readonly onMenu: (event: MouseEvent) => void
}

/** One piece of artwork under the one that it comes from, with its picture and the numbers of what burns it. */
export function LineageRow({ job, row, chosen, burns, total, onPick, onMenu }: Props) {
  const drawing = useEvaluation((state) => state.drawing)
  const unit = useSelector((state) => state.view.lengthUnit)
  const { id, node, depth, above } = row
  const indent = Math.min(depth, DEEPEST) * STEP_PX
  const up = (above - 1) * (ROW_PX + ROW_GAP_PX)
  const shown = shownBy(job, id)
  return (
    <Box sx={{ position: 'relative', pl: `${indent}px` }}>
      {depth > 0 && (
        <Box
          aria-hidden
          sx={{
            position: 'absolute',
            left: `${indent - 8}px`,
            top: -ROW_GAP_PX - up,
            height: ROW_PX / 2 + ROW_GAP_PX + up,
            width: 8,
            borderLeft: 2,
            borderBottom: 2,
            borderColor: 'divider',
            borderBottomLeftRadius: EDGE.card,
          }}
        />
      )}
      <ButtonBase
        role="treeitem"
        aria-level={depth + 1}
        aria-selected={chosen}
        onClick={onPick}
        onContextMenu={onMenu}
        data-testid={`node-${id}`}
        sx={{
          width: '100%',
          justifyContent: 'flex-start',
          gap: 1.2,
          textAlign: 'left',
          borderRadius: `${EDGE.card}px`,
          border: chosen ? 2 : 1,
          borderColor: chosen ? 'primary.main' : 'divider',
          bgcolor: chosen ? 'shop.selected' : 'background.paper',
          p: chosen ? '4px' : '5px',
          height: ROW_PX,
          position: 'relative',
        }}
      >
        <Thumbnail job={job} id={id} node={node} rings={drawing?.outlines[shown]} box={drawing?.bounds[shown]} />
        <Box sx={{ minWidth: 0, pr: burns.length ? 2.4 : 0 }}>
          <Words size="small" weight="strong" cut>
            {node.name}
          </Words>
          <Quiet size="tiny" cut>
            {facts(node, unit)}
          </Quiet>
        </Box>
        <Box sx={{ position: 'absolute', right: 6, top: 6, display: 'flex', gap: 0.4 }}>
          {burns.slice(0, burns.length > MOST_DISCS ? MOST_DISCS - 1 : MOST_DISCS).map((at) => (
            <OrderDisc key={at} at={at} of={total} />
          ))}
          {burns.length > MOST_DISCS && <Quiet size="tiny">+{burns.length - MOST_DISCS + 1}</Quiet>}
        </Box>
      </ButtonBase>
    </Box>
  )
}
