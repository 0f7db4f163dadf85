import { Box, Slider } from '@mui/material'
import {
  bridgeWidth,
  cleanerOf,
  formatLength,
  type JobDocument,
  type OutlineStep,
  withBridgeAt,
  withOutlineStep,
} from '@neotaxis/core'
import { useDeferredValue, useEffect, useState } from 'react'
import { useNavigate, useParams } from 'react-router'
import { Floating, Place } from '../../parts/Floating.tsx'
import { Row } from '../../parts/Row.tsx'
import { Strip } from '../../parts/Strip.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { useEvaluation, workOut } from '../../workers/use-evaluation.ts'
import { onCommand } from '../bar/commands.ts'
import { Foldable } from '../bar/Foldable.tsx'
import { newId } from '../new-id.ts'
import { TroubleBoundary } from '../trouble/TroubleBoundary.tsx'
import { useEdit } from '../use-edit.ts'
import { rememberMade } from './made-from.ts'
import { OutlineStack } from './OutlineStack.tsx'
import { OutlineStage } from './OutlineStage.tsx'
import { type OutlineTool, OutlineTools } from './OutlineTools.tsx'
import { useOutlineView } from './use-outline-view.ts'

/** One outline: what it is made of, itself over its picture, and its numbers. */
export function OutlineBench({ job, node }: { readonly job: JobDocument; readonly node: string }) {
  const { id = '' } = useParams()
  const navigate = useNavigate()
  const edit = useEdit()
  const calm = useDeferredValue(job)
  const view = useOutlineView(calm, node)
  const [tool, setTool] = useState<OutlineTool | null>(null)
  const [fade, setFade] = useState(0.45)
  useEffect(() => {
    workOut('outlines')
  }, [])
  useEffect(() => onCommand({ 'leave-tool': () => setTool(null) }))
  const onNode = (next: string): void => {
    if (!job.nodes[next]) rememberMade(next, node)
    void navigate(`/jobs/${id}/outline/${next}`, { replace: true })
  }
  const onStep = (name: string, step: OutlineStep): void => {
    const ids = { step: newId(), node: newId() }
    const isNew = cleanerOf(job, node) === undefined
    edit(name, (base) => withOutlineStep(base, node, step, ids))
    if (isNew) onNode(ids.node)
  }
  const onBridge = (x: number, y: number): void => {
    const ids = { node: newId(), bridge: newId() }
    edit('set a bridge', (base) => withBridgeAt(base, node, { x, y, widthMm: bridgeWidth(base) }, ids))
    if (job.nodes[node].kind !== 'bridged') onNode(ids.node)
  }
  return (
    <>
      <Foldable name="steps" side="left" area="stack">
        <OutlineStack job={calm} node={node} view={view} onNode={onNode} />
      </Foldable>
      <Box
        sx={{ gridArea: 'stage', minHeight: 0, position: 'relative' }}
        component="section"
        aria-label={`Outline bench: ${job.nodes[node].name}`}
      >
        <TroubleBoundary what="The stage" part keys={[job]}>
          <OutlineStage job={job} node={node} view={view} tool={tool} fade={fade} onStep={onStep} onBridge={onBridge} />
        </TroubleBoundary>
        <Place as={Floating} at={{ right: 16, top: 12 }} style={{ width: 222, paddingBlock: 0 }}>
          picture
          <Slider
            size="small"
            aria-label="How much of the picture shows"
            value={fade}
            min={0}
            max={1}
            step={0.05}
            onChange={(_, value) => setFade(value as number)}
          />
          <span style={{ width: 44, textAlign: 'right', whiteSpace: 'nowrap' }}>{Math.round(100 * fade)} %</span>
        </Place>
      </Box>
      <Strip along="bottom" tone="panel" gap="none" style={{ gridArea: 'facts', minHeight: 0, display: 'block' }}>
        <OutlineTools tool={tool} onTool={setTool} />
        <OutlineNumbers node={node} />
      </Strip>
    </>
  )
}

function OutlineNumbers({ node }: { readonly node: string }) {
  const facts = useEvaluation(({ measure }) => measure?.outlines[node])
  const unit = useSelector((state) => state.view.lengthUnit)
  const told = facts && [
    ['outlines', String(facts.paths - facts.open)],
    ['open lines', String(facts.open)],
    ['nodes', String(facts.nodes)],
    ['length', formatLength(facts.lengthMm, unit)],
    ['smallest', `${formatLength(facts.smallestMm, unit)} across`],
    ...(facts.pixelMm === undefined ? [] : [['a pixel is', formatLength(facts.pixelMm, unit, 3)]]),
  ]
  return (
    <Row gap="open" align="start" top="snug" data-testid="outline-numbers" style={{ minHeight: 40 }}>
      {(told ?? []).map(([name, value]) => (
        <div key={name}>
          <Quiet size="tiny">{name}</Quiet>
          <Words weight="strong">{value}</Words>
        </div>
      ))}
    </Row>
  )
}
