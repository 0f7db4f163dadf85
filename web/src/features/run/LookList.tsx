import { Box, Button, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material'
import type { Look, RunFull } from '@neotaxis/contract'
import {
  burnOrder,
  type Evidence,
  type JobDocument,
  operationMaterial,
  type RunChange,
  sameSettings,
  tellBurned,
  tried,
  withEvidence,
  withOperation,
} from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { shopOrders } from '../../api/orders.ts'
import { Row } from '../../parts/Row.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { pageOf } from '../../processes/table.ts'
import { useEdit } from '../use-edit.ts'
import { ChangeFields } from './ChangeFields.tsx'
import { useDoing } from './use-doing.ts'

interface Props {
  readonly job: JobDocument
  readonly run: RunFull
  /** What is run again, with its settings for this run only. */
  readonly again: Readonly<Record<string, RunChange>>
  readonly onLook: (id: string, look: Look) => void
  readonly onAgain: (again: Readonly<Record<string, RunChange>>) => void
}

/** What to try first when something is missing. */
const suggestion = (job: JobDocument, id: string, answer: Look['answer']): RunChange | undefined => {
  const op = job.operations[id]
  return answer === 'yes' || answer === 'dark' ? undefined : pageOf(op).again(op)
}

/** Before the piece is lifted: each cut asks whether it is through, each picture whether it is as expected. */
export function LookList({ job, run, again, onLook, onAgain }: Props) {
  const ids = burnOrder(job).filter((id) => run.scope.only?.includes(id) ?? true)
  return (
    <Box component="section" aria-label="Look before lifting">
      <Typography variant="h2">Look, do not lift yet</Typography>
      <Quiet bottom="snug">Zero is kept: what is missing runs again with one press.</Quiet>
      {ids.map((id) => {
        const op = job.operations[id]
        const look = run.looks[id]
        const change = again[id]
        return (
          <Box key={id} sx={{ borderTop: 1, borderColor: 'divider', py: 1 }} data-testid={`look-${id}`}>
            <Words weight="strong">
              {burnOrder(job).indexOf(id) + 1} {pageOf(op).name} of “{tellBurned(job, op)}”: {pageOf(op).question}
            </Words>
            <ToggleButtonGroup
              exclusive
              value={look?.answer ?? null}
              onChange={(_, answer: Look['answer'] | null) => {
                if (!answer) return
                onLook(id, { ...look, answer })
                const next = suggestion(job, id, answer)
                const { [id]: _old, ...rest } = again
                onAgain(next ? { ...rest, [id]: next } : rest)
              }}
              aria-label={`Is it ${pageOf(op).question}`}
              sx={{ mt: 0.6, width: '100%' }}
              size="large"
            >
              {pageOf(op).answers.map(([value, text]) => (
                <ToggleButton key={value} value={value} data-testid={`look-${id}-${value}`}>
                  {text}
                </ToggleButton>
              ))}
            </ToggleButtonGroup>
            {change && <AgainSettings job={job} id={id} change={change} onChange={(next) => onAgain({ ...again, [id]: next })} />}
            {run.scope.changes?.[id] && look?.answer === 'yes' && (
              <TakeOver job={job} run={run} id={id} change={run.scope.changes[id]} />
            )}
          </Box>
        )
      })}
    </Box>
  )
}

function AgainSettings({
  job,
  id,
  change,
  onChange,
}: {
  readonly job: JobDocument
  readonly id: string
  readonly change: RunChange
  readonly onChange: (change: RunChange) => void
}) {
  return (
    <Words top="tight" data-testid={`again-${id}`}>
      <Quiet>runs again, with this for this run only:</Quiet>
      <ChangeFields operation={job.operations[id]} change={change} onChange={onChange} />
    </Words>
  )
}

const TOGETHER = 'in two runs on one piece: what they took together'

/** Settings that counted for one run only and did it: for the job from now on, and for its recipe. */
function TakeOver({ job, run, id, change }: Pick<Props, 'job' | 'run'> & { readonly id: string; readonly change: RunChange }) {
  const edit = useEdit()
  const doing = useDoing()
  const { enqueueSnackbar } = useSnackbar()
  const op = job.operations[id]
  const recipe = operationMaterial(job, op).recipes.find((one) => one.id === op.recipe)
  // What it took in all: the first run and what was added.
  const passes = op.passes + (change.passes ?? 1)
  const take = (alsoRecipe: boolean): void => {
    const settings = { power: change.power ?? op.power, speedMmS: change.speedMmS ?? op.speedMmS, passes }
    edit('take over what worked', (base) => withOperation(base, id, settings))
    if (!alsoRecipe || !recipe) return
    void doing(async () => {
      // Where only passes were added, these settings are what the piece really got. Else nobody has burned them yet.
      const set = tried({ ...op, ...settings })
      const isWhatItGot = sameSettings(set, { ...tried(op), passes })
      const worked: Evidence = { kind: 'trial', date: run.startedAt.slice(0, 10), set, answer: 'yes', note: TOGETHER }
      const evidence = isWhatItGot ? withEvidence(recipe.evidence, [worked]) : recipe.evidence
      await shopOrders.saveRecipe({ ...recipe, ...settings, evidence })
      enqueueSnackbar(`The recipe “${recipe.name}” has what worked.`)
    })
  }
  return (
    <Row align="stretch" top="snug">
      <Button variant="outlined" size="large" onClick={() => take(false)} data-testid={`take-over-${id}`}>
        Into the job
      </Button>
      {recipe && (
        <Button variant="outlined" size="large" onClick={() => take(true)}>
          Into job and recipe
        </Button>
      )}
    </Row>
  )
}
