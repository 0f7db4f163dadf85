import { Typography } from '@mui/material'
import { burnOrder, type JobDocument } from '@neotaxis/core'
import { memo, useRef } from 'react'
import { LongList } from '../../parts/LongList.tsx'
import { Panel } from '../../parts/Panel.tsx'
import { Quiet } from '../../parts/words.tsx'
import { useDispatch, useSelector } from '../../store/hooks.ts'
import { selected, severalSelected } from '../../store/view-slice.ts'
import { Becomes } from '../becomes/Becomes.tsx'
import { openMenu } from '../compose/StageMenu.tsx'
import { selectedNodes, toggled } from '../selection.ts'
import { burnsOf, familyRows } from './family.ts'
import { LineageRow, ROW_GAP_PX, ROW_PX } from './LineageRow.tsx'

const NONE: readonly number[] = []

/** Where the artwork comes from, and what uses it. */
export const LineageShelf = memo(function LineageShelf({ job }: { readonly job: JobDocument }) {
  const dispatch = useDispatch()
  const box = useRef<HTMLDivElement>(null)
  const { selection, also } = useSelector((state) => state.view)
  const nodes = selectedNodes(job, selection, also)
  const order = burnOrder(job)
  const burns = burnsOf(job, order)
  const pick = (id: string) => dispatch(selected({ kind: 'node', id }))
  return (
    <Panel ref={box} side="left" as="nav" aria-label="Artwork and where it comes from">
      <Typography variant="h3" component="h2" sx={{ mb: 1.4 }}>
        Artwork and where it comes from
      </Typography>
      {Object.keys(job.nodes).length === 0 && (
        <Quiet size="plain">
          Nothing yet. Drop a picture, a drawing or a text on the workpiece, or take the pencil over it to draw and write.
        </Quiet>
      )}
      <LongList
        rows={familyRows(job)}
        keyOf={({ id }) => id}
        height={ROW_PX}
        gap={ROW_GAP_PX}
        scrolls={box}
        tree="Artwork"
        testId="lineage"
      >
        {(row) => (
          <LineageRow
            job={job}
            row={row}
            chosen={nodes.includes(row.id)}
            burns={burns.get(row.id) ?? NONE}
            total={order.length}
            onPick={(event) => {
              if (event.shiftKey || event.ctrlKey || event.metaKey) dispatch(severalSelected(toggled(job, nodes, row.id)))
              else pick(row.id)
            }}
            onMenu={(event) => {
              event.preventDefault()
              if (!nodes.includes(row.id)) pick(row.id)
              openMenu(event.clientX, event.clientY)
            }}
          />
        )}
      </LongList>
      <Becomes job={job} />
    </Panel>
  )
})
