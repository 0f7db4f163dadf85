import CloseIcon from '@mui/icons-material/Close'
import { IconButton, styled } from '@mui/material'
import { FILLS, type FillName, filledAs, fillNow, formatDuration, type JobDocument } from '@neotaxis/core'
import { useMemo } from 'react'
import { useAnswer } from '../../api/use-answer.ts'
import { PickCard } from '../../parts/Card.tsx'
import { Row } from '../../parts/Row.tsx'
import { Name, Quiet } from '../../parts/words.tsx'
import { useDispatch, useSelector } from '../../store/hooks.ts'
import { comparing } from '../../store/view-slice.ts'
import { EDGE, SPACE } from '../../theme/tokens.ts'
import { fillOf } from '../../workers/engine.ts'
import { useEvaluation } from '../../workers/use-evaluation.ts'
import { SmallCanvas } from '../becomes/SmallCanvas.tsx'
import { selectedOperation } from '../selection.ts'
import { useEdit } from '../use-edit.ts'

const NAMES: Readonly<Record<FillName, string>> = {
  sweep: 'Sweeps',
  patches: 'Patches',
  rings: 'Rings',
  'two-angles': 'Two angles',
}

/** Heat that gathers, in words. @param hot share of what is burned */
const heatWords = (hot: number): string => (hot < 0.02 ? 'even: no heat gathers' : `heat gathers in ${Math.round(100 * hot)} %`)

/** All ways to fill the selected area side by side: what each takes, its path, where heat gathers. One press takes it. */
export function FillCards({ job }: { readonly job: JobDocument }) {
  const dispatch = useDispatch()
  const on = useSelector((state) => state.view.comparing)
  const selection = useSelector((state) => state.view.selection)
  const id = selectedOperation(job, selection)
  const now = id === undefined ? undefined : fillNow(job, id)
  if (!on || id === undefined || now === undefined) return null
  return (
    <Cards as="section" aria-label="Ways to fill it" data-testid="fill-cards">
      {(Object.keys(FILLS) as FillName[]).map((name) => (
        <FillCard key={name} job={job} id={id} name={name} chosen={name === now} />
      ))}
      <IconButton size="small" aria-label="Close the comparison" onClick={() => dispatch(comparing(false))}>
        <CloseIcon fontSize="small" />
      </IconButton>
    </Cards>
  )
}

interface Props {
  readonly job: JobDocument
  readonly id: string
  readonly name: FillName
  readonly chosen: boolean
}

function FillCard({ job, id, name, chosen }: Props) {
  const edit = useEdit()
  const ready = useEvaluation((state) => state.measured === job)
  const question = useMemo(() => (ready ? () => fillOf(job, id, name) : undefined), [ready, job, id, name])
  const { value, error } = useAnswer(question)
  return (
    <PickCard
      chosen={chosen}
      pad="snug"
      aria-pressed={chosen}
      onClick={() => edit(`fill by ${NAMES[name].toLowerCase()}`, (base) => filledAs(base, id, name))}
      data-testid={`fill-${name}`}
      data-seconds={value?.seconds}
    >
      <Shown>
        <SmallCanvas picture={value?.picture} wide="100%" high={100} />
      </Shown>
      <Row gap="snug">
        <Name grow cut>
          {NAMES[name]}
        </Name>
        <b>{value ? formatDuration(value.seconds) : '…'}</b>
      </Row>
      <Quiet>{error ?? (value ? `travel ${(value.travelMm / 1000).toFixed(1)} m` : ' ')}</Quiet>
      <Quiet>{value ? heatWords(value.hot) : ' '}</Quiet>
    </PickCard>
  )
}

const Cards = styled('div')(({ theme: { palette, shadows } }) => ({
  position: 'absolute',
  left: SPACE.room,
  right: SPACE.room,
  bottom: SPACE.snug,
  display: 'flex',
  alignItems: 'flex-start',
  gap: SPACE.snug,
  padding: SPACE.snug,
  backgroundColor: palette.shop.panel,
  borderRadius: EDGE.card,
  boxShadow: shadows[3],
  '& > button:not(:last-child)': { flex: '1 1 0', minWidth: 0, height: 'auto' },
  // It closes at its corner, however narrow the cards are.
  '& > button:last-child': { position: 'absolute', right: 2, top: 2, backgroundColor: palette.background.paper },
}))

const Shown = styled('span')({ display: 'grid', placeItems: 'center', overflow: 'hidden', borderRadius: EDGE.small })
