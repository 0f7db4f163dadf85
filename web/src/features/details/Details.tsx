import { Box, Button, Link, Tooltip, Typography } from '@mui/material'
import {
  burnOrder,
  canBeCutElsewhere,
  canBeKeptWithin,
  canBeTried,
  cutElsewhere,
  formatDuration,
  type JobDocument,
  processOf,
  RANGES,
  tellArtwork,
  tellBurned,
  withOperations,
} from '@neotaxis/core'
import { memo } from 'react'
import { Fact } from '../../parts/Fact.tsx'
import { Row } from '../../parts/Row.tsx'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { Title } from '../../parts/Title.tsx'
import { Words } from '../../parts/words.tsx'
import type { ProcessFieldsProps } from '../../processes/process-page.ts'
import { pageOf } from '../../processes/table.ts'
import { useDispatch, useSelector } from '../../store/hooks.ts'
import { selected } from '../../store/view-slice.ts'
import { useEvaluation } from '../../workers/use-evaluation.ts'
import { runCommand } from '../bar/commands.ts'
import { CountField, PercentField, SpeedField } from '../field/quantities.tsx'
import { ProvenanceDetails } from '../library/ProvenanceDetails.tsx'
import { PlaceFields } from '../placing/PlaceFields.tsx'
import { AroundFields } from '../round/AroundFields.tsx'
import { TrueFields } from '../round/TrueFields.tsx'
import { selectedNode, selectedOperation, selectedOperations } from '../selection.ts'
import { useEdit } from '../use-edit.ts'
import { ArtworkDetails } from './ArtworkDetails.tsx'
import { AsideList } from './AsideList.tsx'
import { AskResult } from './AskResult.tsx'
import { CutAround } from './CutAround.tsx'
import { GroupFields } from './GroupFields.tsx'
import { LooseList } from './LooseList.tsx'
import { MoreFields } from './MoreFields.tsx'
import { PauseDetails } from './PauseDetails.tsx'
import { PlaceReason } from './PlaceReason.tsx'
import { ProcessChoice } from './ProcessChoice.tsx'
import { PulseFields } from './PulseFields.tsx'
import { Recipe } from './Recipe.tsx'
import { Several } from './Several.tsx'
import { SizeDetails } from './SizeDetails.tsx'
import { StepDetails } from './StepDetails.tsx'
import { TryOnCard } from './TryOnCard.tsx'
import { WithinFields } from './WithinFields.tsx'

/** Everything about what is selected; about the job where nothing is. */
export const Details = memo(function Details({ job }: { readonly job: JobDocument }) {
  const selection = useSelector((state) => state.view.selection)
  const blocks = useSelector((state) => state.view.blocks)
  const also = useSelector((state) => state.view.also)
  const node = selectedNode(job, selection)
  const operation = selectedOperation(job, selection)
  const box = useEvaluation(({ drawing }) => (node ? drawing?.bounds[node] : undefined))
  return (
    <Box
      component="aside"
      aria-label="Details"
      sx={{
        display: 'flex',
        flexDirection: 'column',
        height: '100%',
        bgcolor: 'shop.panel',
        borderLeft: 1,
        borderColor: 'divider',
      }}
    >
      <Box sx={{ flex: 1, overflow: 'auto', p: 2.2, pb: 1 }}>
        {selection?.kind === 'step' && job.steps[selection.id] && job.steps[selection.id].kind !== 'burn' ? (
          <StepDetails job={job} id={selection.id} />
        ) : operation ? (
          <OperationDetails job={job} id={operation} ids={selectedOperations(job, selection, blocks)} />
        ) : node ? (
          <Typography variant="h2">{tellArtwork(job, node)}</Typography>
        ) : (
          <JobDetails job={job} />
        )}
        {node && <ArtworkDetails job={job} node={node} />}
        {node && box && Number.isFinite(box.x0) && <SizeDetails job={job} node={node} box={box} />}
        {node && box && Number.isFinite(box.x0) && <PlaceFields job={job} count={1 + also.length} />}
        {node && <TrueFields job={job} node={node} />}
        {node && box && Number.isFinite(box.x0) && <AroundFields job={job} node={node} box={box} />}
        {node && canBeKeptWithin(job, node) && <WithinFields job={job} id={node} />}
        {node && <GroupFields job={job} node={node} />}
        {node && <ProvenanceDetails job={job} node={node} />}
      </Box>
      <Box sx={{ display: 'flex', gap: 1.2, p: 2, pt: 1.2, borderTop: 1, borderColor: 'divider' }}>
        <Tooltip title="The job with its pictures, to keep or to hand on  (Ctrl S)">
          <Button
            variant="outlined"
            color="secondary"
            sx={{ flex: 1, px: 1 }}
            onClick={() => runCommand('save-job')}
            data-testid="save-job"
          >
            Job file
          </Button>
        </Tooltip>
        <Tooltip title="The program for the machine, as G-code  (Ctrl Shift G)">
          <Button
            variant="contained"
            sx={{ flex: 1.3, px: 1 }}
            onClick={() => runCommand('save-program')}
            data-testid="save-program"
          >
            Save program
          </Button>
        </Tooltip>
      </Box>
    </Box>
  )
})

interface OperationProps {
  readonly job: JobDocument
  readonly id: string
  /** All that are selected: what is changed here changes them alike. */
  readonly ids: readonly string[]
}

function OperationDetails({ job, id, ids }: OperationProps) {
  const edit = useEdit()
  const operation = job.operations[id]
  const place = burnOrder(job).indexOf(id)
  const { machine } = job
  const { name, asWritten, Fields, Dose } = pageOf(operation)
  const set: ProcessFieldsProps['set'] = (name, change) =>
    edit(ids.length > 1 ? `${name}, ${ids.length} operations` : name, (base) =>
      withOperations(base, ids, typeof change === 'function' ? change(base.operations[id], base) : change),
    )
  const { power, speedMmS, passes } = operation
  return (
    <>
      <Row align="baseline">
        <Typography variant="h2">
          {place < 0 ? 'Off' : place + 1} · {name}
        </Typography>
        <Words grow cut tone="quiet" style={{ textAlign: 'right' }}>
          {tellBurned(job, operation)}
        </Words>
      </Row>
      <PlaceReason job={job} id={id} />
      <Several job={job} id={id} ids={ids} />
      <ProcessChoice job={job} id={id} />
      {canBeCutElsewhere(job, id) && (
        <Link
          component="button"
          onClick={() => edit('cut by another tool', (base) => cutElsewhere(base, id))}
          style={{ textAlign: 'left', display: 'block' }}
          data-testid="cut-elsewhere"
        >
          Another tool cuts this
        </Link>
      )}
      {asWritten ? (
        <Words size="plain" tone="quiet" top="snug" bottom="snug">
          {asWritten}
        </Words>
      ) : (
        <Recipe job={job} id={id} />
      )}
      {canBeTried(job, id) && !job.trial && (
        <>
          <AskResult job={job} id={id} />
          <TryOnCard job={job} id={id} />
        </>
      )}
      <PercentField
        label="Power"
        value={power}
        range={RANGES.power}
        hint={`Share of ${machine.watts} W, 0 to 100 %.`}
        onCommit={(v) => set(`power ${Number((v * 100).toFixed(1))} %`, { power: v })}
      />
      {!asWritten && (
        <SpeedField
          label="Speed"
          value={speedMmS}
          range={RANGES.speedMmS}
          hint={`${machine.name} reaches ${machine.axes.x.speedMmS} mm/s.`}
          onCommit={(v) => set('speed', { speedMmS: v })}
        />
      )}
      <CountField label="Passes" value={passes} range={RANGES.passes} onCommit={(v) => set(`${v} passes`, { passes: v })} />
      <Fields job={job} id={id} operation={operation} set={set} />
      <PulseFields machine={machine} operation={operation} set={set} />
      {machine.hasAir && (
        <SwitchRow label="Air assist" on={operation.air} onSwitch={(on) => set(on ? 'air on' : 'air off', { air: on })} />
      )}
      <Dose job={job} id={id} operation={operation} set={set} />
      <MoreFields job={job} operation={operation} set={set} />
      <PauseDetails job={job} id={id} />
      {processOf(operation).dots && !job.trial && <CutAround job={job} />}
    </>
  )
}

function JobDetails({ job }: { readonly job: JobDocument }) {
  const dispatch = useDispatch()
  const measure = useEvaluation((state) => state.measure)
  return (
    <>
      <Title variant="h2" bottom="snug">
        The whole job
      </Title>
      <Words tone="quiet" bottom="wide">
        Select something on the workpiece, the shelf or the run line to change it.
      </Words>
      {burnOrder(job).map((id, index) => {
        const report = measure?.report.operations.find((op) => op.id === id)
        return (
          <Fact
            key={id}
            name={
              <Link
                component="button"
                color="inherit"
                underline="hover"
                onClick={() => dispatch(selected({ kind: 'operation', id }))}
                style={{ textAlign: 'left' }}
              >
                {index + 1} {pageOf(job.operations[id]).name} of {tellBurned(job, job.operations[id])}
              </Link>
            }
          >
            {report ? formatDuration(report.seconds) : '…'}
          </Fact>
        )
      })}
      <AsideList job={job} />
      <LooseList job={job} />
      <CutAround job={job} />
    </>
  )
}
