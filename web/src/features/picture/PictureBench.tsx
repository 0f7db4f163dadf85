import { Box, Button, Tooltip } from '@mui/material'
import { burnOrder, burnsRows, FINISH_STARTS, type JobDocument, materialOf, picturedRoot, pictureNode } from '@neotaxis/core'
import { useCallback, useDeferredValue, useEffect, useState } from 'react'
import { useLocation, useNavigate, useParams } from 'react-router'
import { Place } from '../../parts/Floating.tsx'
import { ToolToggle } from '../../parts/ToolToggle.tsx'
import { uprightJob } from '../../workers/upright-job.ts'
import { showBeside, workOut } from '../../workers/use-evaluation.ts'
import { onCommand } from '../bar/commands.ts'
import { Foldable } from '../bar/Foldable.tsx'
import { TroubleBoundary } from '../trouble/TroubleBoundary.tsx'
import { useEdit, useRested } from '../use-edit.ts'
import { BenchFactsBar } from './BenchFactsBar.tsx'
import { BenchStage, type OpenStep } from './BenchStage.tsx'
import { inPlaceOf, otherName, otherWay } from './other-way.ts'
import { ResolutionSheet } from './ResolutionSheet.tsx'
import { SideBySide } from './SideBySide.tsx'
import { saveTreatment } from './save-treatment.ts'
import { type Card, type Hands, TreatmentStack } from './TreatmentStack.tsx'
import { useBenchFacts } from './use-bench-facts.ts'

const NO_HANDS: Hands = { sampling: null, mask: null, keepRatio: false }

/** Stack, stage and facts of one prepared picture. */
export function PictureBench({ job, node, name }: { readonly job: JobDocument; readonly node: string; readonly name: string }) {
  const [chosen, setCard] = useState<Card | null>(null)
  const [hands, setHands] = useState<Hands>(NO_HANDS)
  const [loupe, setLoupe] = useState(false)
  // Changing places keeps both in view.
  const cameFrom = useLocation().state as { readonly beside?: boolean } | null
  const [isBeside, setBeside] = useState(cameFrom?.beside === true)
  const edit = useEdit()
  const navigate = useNavigate()
  const { id = '' } = useParams()
  const { finish } = materialOf(job)
  const behind = finish ? FINISH_STARTS[finish].seenFromBehind : false
  const [flipped, setFlipped] = useState(behind)
  // Cards need not follow a drag at once: their sliders do by themselves.
  const calm = useDeferredValue(job)
  const rested = useDeferredValue(uprightJob(useRested(job)))
  const changeHands = useCallback((change: Partial<Hands>) => setHands((now) => ({ ...now, ...change })), [])
  const picture = pictureNode(job, node)
  const root = picturedRoot(job, node)
  // What was undone away cannot be open.
  const card =
    chosen?.kind === 'framing'
      ? root.framing[chosen.index]
        ? chosen
        : null
      : chosen?.kind === 'step'
        ? picture.steps[chosen.id]
          ? chosen
          : null
        : chosen
  const operationId = burnOrder(job).find((id) => job.operations[id].of[0] === node)
  const operation = operationId ? job.operations[operationId] : undefined
  const burn = burnsRows(operation) ? operation : undefined
  const before = operationId ? rested.operations[operationId] : undefined
  const restedBurn = burnsRows(before) ? before : undefined
  const facts = useBenchFacts(job, operationId, card?.kind === 'step' ? card.id : undefined)
  const other = isBeside ? otherWay(rested, node) : undefined
  const otherOperation = other?.operation
  useEffect(() => {
    workOut('burn')
    return () => workOut('outlines')
  }, [])
  useEffect(() => {
    showBeside(otherOperation)
    return () => showBeside(undefined)
  }, [otherOperation])
  const runOther = (): void => {
    if (!other || !operationId) return
    edit(`run the ${otherName(job, node)} instead`, (base) => inPlaceOf(base, other.operation, operationId))
    void navigate(`/jobs/${id}/picture/${other.node}`, { state: { beside: true } })
  }
  useEffect(() =>
    onCommand({
      loupe: () => setLoupe((on) => !on),
      flip: () => setFlipped((on) => !on),
      'leave-tool': () => {
        if (hands.sampling || hands.mask) setHands({ ...hands, sampling: null, mask: null })
        else setCard(null)
      },
    }),
  )
  const open: OpenStep | undefined =
    card?.kind === 'framing'
      ? { kind: 'framing', index: card.index, keepRatio: hands.keepRatio }
      : card?.kind === 'step'
        ? { kind: 'step', id: card.id, sampling: hands.sampling, mask: hands.mask }
        : undefined
  return (
    <>
      <Foldable name="steps" side="left" area="stack">
        <TreatmentStack
          job={calm}
          rested={rested}
          node={node}
          operationId={operationId}
          card={card}
          onCard={setCard}
          hands={hands}
          onHands={changeHands}
          facts={facts}
        />
      </Foldable>
      <Box
        sx={{ gridArea: 'stage', position: 'relative', minHeight: 0 }}
        aria-label={`Picture bench: ${name}`}
        component="section"
      >
        <TroubleBoundary what="The stage" part keys={[job]}>
          <BenchStage
            job={job}
            node={node}
            operation={operationId}
            beside={other && { operation: other.operation, name: otherName(job, node), onWork: runOther }}
            open={open}
            flipped={flipped}
            loupe={loupe}
          />
        </TroubleBoundary>
        <Place at={{ left: 14, bottom: 12 }}>
          <Tooltip title="Every dot, enlarged under the pointer  (L)">
            <ToolToggle value="loupe" selected={loupe} onChange={() => setLoupe(!loupe)} data-testid="loupe">
              loupe
            </ToolToggle>
          </Tooltip>
          <Tooltip title="See the piece from its other side  (F)">
            <ToolToggle value="flip" selected={flipped} onChange={() => setFlipped(!flipped)} data-testid="flip">
              from the front
            </ToolToggle>
          </Tooltip>
          {burn && <SideBySide job={rested} node={node} on={isBeside} onChange={setBeside} />}
          <Tooltip title="The steps as a file, for the next picture or the command line">
            <Button onClick={() => saveTreatment(job, node)} data-testid="save-steps">
              Steps as a file
            </Button>
          </Tooltip>
        </Place>
        {restedBurn && operationId && (
          <Place at={{ right: 14, bottom: 12 }}>
            <ResolutionSheet job={rested} operationId={operationId} operation={restedBurn} />
          </Place>
        )}
      </Box>
      <Box sx={{ gridArea: 'facts', minHeight: 0 }}>
        {burn && operationId ? (
          <BenchFactsBar job={calm} operationId={operationId} operation={burn} facts={facts} />
        ) : (
          <Box sx={{ p: 2, color: 'text.secondary' }}>No operation burns this picture: the run line gives it one.</Box>
        )}
      </Box>
    </>
  )
}
