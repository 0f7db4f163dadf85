import { Box, ButtonBase, Typography, useTheme } from '@mui/material'
import { burnOrder, formatLength, isRoot, type JobDocument, type LineageNode } from '@neotaxis/core'
import { memo } from 'react'
import { Panel } from '../../parts/Panel.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { useDispatch, useSelector } from '../../store/hooks.ts'
import { selected, severalSelected } from '../../store/view-slice.ts'
import { runColour } from '../../theme/run-ramp.ts'
import { EDGE, TYPE, WEIGHT } from '../../theme/tokens.ts'
import { useEvaluation } from '../../workers/use-evaluation.ts'
import { openMenu } from '../compose/StageMenu.tsx'
import { COMBINED } from '../outline/outline-words.ts'
import { dotsWords } from '../picture/step-words.ts'
import { selectedNodes, toggled } from '../selection.ts'
import { Thumbnail } from './Thumbnail.tsx'

interface Row {
  readonly id: string
  readonly node: LineageNode
  readonly depth: number
}

/** Nodes in family order: each under the one it comes from. */
export function familyRows(job: JobDocument): Row[] {
  const rows: Row[] = []
  const add = (id: string, depth: number): void => {
    rows.push({ id, node: job.nodes[id], depth })
    for (const [child, node] of Object.entries(job.nodes)) if (!isRoot(node) && node.from === id) add(child, depth + 1)
  }
  for (const [id, node] of Object.entries(job.nodes)) if (isRoot(node)) add(id, 0)
  return rows
}

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
    case 'offset':
      return `${node.outermost ? 'outermost, ' : ''}${formatLength(node.distanceMm, unit)}`
  }
}

/** Where the artwork comes from, and what uses it. */
export const LineageShelf = memo(function LineageShelf({ job }: { readonly job: JobDocument }) {
  const dispatch = useDispatch()
  const { palette } = useTheme()
  const drawing = useEvaluation((state) => state.drawing)
  const { selection, also } = useSelector((state) => state.view)
  const unit = useSelector((state) => state.view.lengthUnit)
  const nodes = selectedNodes(job, selection, also)
  const rows = familyRows(job)
  return (
    <Panel side="left" as="nav" aria-label="Artwork and where it comes from">
      <Typography variant="h3" component="h2" sx={{ mb: 1.4 }}>
        Artwork and where it comes from
      </Typography>
      <Box role="tree" aria-label="Artwork">
        {rows.map(({ id, node, depth }, i) => {
          const operations = burnOrder(job).flatMap((op, at) => (job.operations[op].of[0] === id ? [at] : []))
          const chosen = nodes.includes(id)
          const indent = Math.min(depth, 4) * 15
          return (
            <Box key={id} sx={{ position: 'relative', pl: `${indent}px`, pb: 1.3 }}>
              {depth > 0 && (
                <Box
                  aria-hidden
                  sx={{
                    position: 'absolute',
                    left: `${indent - 8}px`,
                    top: -10 - 54 * (i - 1 - rows.findLastIndex((row, j) => j < i && row.depth === depth - 1)),
                    height: 34 + 54 * (i - 1 - rows.findLastIndex((row, j) => j < i && row.depth === depth - 1)),
                    width: 8,
                    borderLeft: 2,
                    borderBottom: 2,
                    borderColor: 'divider',
                    borderBottomLeftRadius: 8,
                  }}
                />
              )}
              <ButtonBase
                role="treeitem"
                aria-level={depth + 1}
                aria-selected={chosen}
                onClick={(event) =>
                  dispatch(
                    event.shiftKey || event.ctrlKey || event.metaKey
                      ? severalSelected(toggled(job, nodes, id))
                      : selected({ kind: 'node', id }),
                  )
                }
                onContextMenu={(event) => {
                  event.preventDefault()
                  if (!nodes.includes(id)) dispatch(selected({ kind: 'node', id }))
                  openMenu(event.clientX, event.clientY)
                }}
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
                  height: 48,
                  position: 'relative',
                }}
              >
                <Thumbnail
                  job={job}
                  id={id}
                  node={node}
                  rings={drawing?.outlines[shownBy(job, id)]}
                  box={drawing?.bounds[shownBy(job, id)]}
                />
                <Box sx={{ minWidth: 0, pr: operations.length ? 2.4 : 0 }}>
                  <Words size="small" weight="strong" cut>
                    {node.name}
                  </Words>
                  <Quiet size="tiny" cut>
                    {facts(node, unit)}
                  </Quiet>
                </Box>
                <Box sx={{ position: 'absolute', right: 6, top: 6, display: 'flex', gap: 0.4 }}>
                  {operations.map((at) => {
                    const { fill, ink } = runColour(at, burnOrder(job).length)
                    return (
                      <Box
                        key={at}
                        aria-label={`operation ${at + 1}`}
                        sx={{
                          width: 17,
                          height: 17,
                          borderRadius: '50%',
                          bgcolor: fill,
                          color: ink,
                          fontSize: TYPE.tiny,
                          fontWeight: WEIGHT.strong,
                          display: 'grid',
                          placeItems: 'center',
                          outline: `1px solid ${palette.shop.line}`,
                        }}
                      >
                        {at + 1}
                      </Box>
                    )
                  })}
                </Box>
              </ButtonBase>
            </Box>
          )
        })}
      </Box>
    </Panel>
  )
})
