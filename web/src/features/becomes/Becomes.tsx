import RemoveIcon from '@mui/icons-material/Remove'
import { IconButton, styled, Tooltip, Typography } from '@mui/material'
import { burnedAs, burnOrder, formatDuration, type JobDocument, type ProcessName, processesFor } from '@neotaxis/core'
import { useMemo } from 'react'
import { useAnswer } from '../../api/use-answer.ts'
import { PickCard } from '../../parts/Card.tsx'
import { Column } from '../../parts/Column.tsx'
import { OrderDisc } from '../../parts/OrderDisc.tsx'
import { Row } from '../../parts/Row.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { PROCESS_WORDS } from '../../processes/process-words.ts'
import { useDispatch, useSelector } from '../../store/hooks.ts'
import { selected } from '../../store/view-slice.ts'
import { offerOf } from '../../workers/engine.ts'
import { useEvaluation } from '../../workers/use-evaluation.ts'
import { selectedNodes } from '../selection.ts'
import { useEdit } from '../use-edit.ts'
import { takenOff } from './becoming.ts'
import { SmallCanvas } from './SmallCanvas.tsx'
import { useGive } from './use-give.ts'

/** What is asked for when artwork is only passed over. */
const LATER_MS = 250

/** What the selected artwork can be: each process with its time and what it would look like. One press makes it so. */
export function Becomes({ job }: { readonly job: JobDocument }) {
  const { selection, also } = useSelector((state) => state.view)
  const nodes = selectedNodes(job, selection, also)
  const can = nodes.length > 0 ? processesFor(job, nodes) : []
  if (can.length === 0) return null
  return (
    <Column as="section" gap="tight" aria-label="What it can be" data-testid="becomes" style={{ marginTop: 18 }}>
      <Typography variant="h3" component="h2">
        {nodes.length > 1 ? `These ${nodes.length} can be` : 'This can be'}
      </Typography>
      {can.map((process) => (
        <Offered key={process} job={job} nodes={nodes} process={process} />
      ))}
    </Column>
  )
}

interface Props {
  readonly job: JobDocument
  readonly nodes: readonly string[]
  readonly process: ProcessName
}

function Offered({ job, nodes, process }: Props) {
  const dispatch = useDispatch()
  const edit = useEdit()
  const give = useGive()
  const ready = useEvaluation((state) => state.measured === job)
  const is = burnedAs(job, nodes, process)
  const measured = useEvaluation(({ measure }) => measure?.report.operations.find(({ id }) => id === is)?.seconds)
  const key = nodes.join()
  const question = useMemo(
    () =>
      ready && is === undefined
        ? async (signal: AbortSignal) => {
            await new Promise((resolve) => setTimeout(resolve, LATER_MS))
            return signal.aborted ? undefined : offerOf(job, key.split(','), process)
          }
        : undefined,
    [ready, is, job, key, process],
  )
  const { value: offer, error } = useAnswer(question)
  const seconds = is === undefined ? offer?.seconds : measured
  const { made, name } = PROCESS_WORDS[process]
  const time = error ? '–' : seconds === undefined ? '…' : formatDuration(seconds)
  return (
    <Tooltip
      title={error ?? (is === undefined ? `Makes it ${made}, with the values of the recipe` : `It is: shows its settings`)}
      placement="right"
    >
      <Beside>
        <PickCard
          chosen={is !== undefined}
          pad="tight"
          disabled={error !== undefined}
          onClick={() => (is === undefined ? give(nodes, process) : dispatch(selected({ kind: 'operation', id: is })))}
          data-testid={`become-${process}`}
          data-seconds={seconds}
        >
          <Row gap="snug">
            {is === undefined ? (
              <SmallCanvas picture={offer?.picture} wide={36} high={26} />
            ) : (
              <Place>
                <OrderDisc at={burnOrder(job).indexOf(is)} of={burnOrder(job).length} />
              </Place>
            )}
            <Words grow size="small" weight="strong">
              {made}
            </Words>
            <Quiet>{is === undefined ? time : `${time} · now`}</Quiet>
          </Row>
        </PickCard>
        {is !== undefined && (
          <Tooltip title={`Take the ${name.toLowerCase()} off; the artwork stays`}>
            <IconButton
              size="small"
              aria-label={`Take the ${name.toLowerCase()} off`}
              onClick={() => {
                const { name: what, change } = takenOff(is, process)
                edit(what, change)
                dispatch(selected({ kind: 'node', id: nodes[nodes.length - 1] }))
              }}
              data-testid={`take-off-${process}`}
            >
              <RemoveIcon fontSize="small" />
            </IconButton>
          </Tooltip>
        )}
      </Beside>
    </Tooltip>
  )
}

const Place = styled('span')({ flex: 'none', width: 36, height: 26, display: 'grid', placeItems: 'center' })
const Beside = styled('div')({ display: 'flex', alignItems: 'center', minWidth: 0 })
