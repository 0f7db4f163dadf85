import { Button, InputBase, Popover } from '@mui/material'
import { formatDuration, type JobDocument, type Result, type Way, wantable, waysTo, withOperation } from '@neotaxis/core'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { useAnswer } from '../../api/use-answer.ts'
import { PickCard } from '../../parts/Card.tsx'
import { Row } from '../../parts/Row.tsx'
import { Sheet } from '../../parts/Sheet.tsx'
import { Title } from '../../parts/Title.tsx'
import { Quiet, Words, Wrong } from '../../parts/words.tsx'
import { secondsWith } from '../../workers/engine.ts'
import { Choice } from '../field/Choice.tsx'
import { useEdit } from '../use-edit.ts'

const NAMES: Readonly<Record<Result['kind'], string>> = {
  depth: 'a depth',
  tone: 'a tone',
  through: 'cut through',
  lift: 'the coating lifted, no more',
}

/** How sure a way is, in words. */
const sureWords = (off: number): string => {
  const percent = Math.max(1, Math.round(100 * off))
  return percent <= 8 ? `sure to ${percent} %` : percent <= 20 ? `about, ± ${percent} %` : `a guess, ± ${percent} %`
}

/** A result as it is asked for: a depth in mm, a tone in per cent. */
const asked = (kind: Result['kind'], value = 1): Result =>
  kind === 'depth' ? { kind, mm: value } : kind === 'tone' ? { kind, share: value / 100 } : { kind }

const settingWords = ({ power, speedMmS, passes }: Way['change']): string =>
  `${Number((100 * power).toFixed(1))} % · ${speedMmS} mm/s${passes > 1 ? ` · ${passes} passes` : ''}`

interface AskedProps {
  readonly job: JobDocument
  readonly id: string
  readonly onTake: (way: Way) => void
}

/** Says what shall come out, and shows the ways to it: each with its time and how sure it is. */
function Asked({ job, id, onTake }: AskedProps) {
  const kinds = wantable(job, id)
  // What is known something of comes first.
  const [kind, setKind] = useState(
    () => kinds.find((each) => each === 'lift' || 'ways' in waysTo(job, id, asked(each))) ?? kinds[0],
  )
  const [typed, setTyped] = useState({ depth: '1', tone: '60' })
  const text = kind === 'depth' || kind === 'tone' ? typed[kind] : ''
  const value = Number(text.replace(',', '.'))
  const isTyped = kind === 'through' || kind === 'lift' || (text.trim() !== '' && value > 0)
  const found = useMemo(() => {
    if (!isTyped)
      return { not: kind === 'depth' ? 'A depth is a number of mm above 0.' : 'A tone is a number of per cent above 0.' }
    return waysTo(job, id, asked(kind, value))
  }, [job, id, kind, value, isTyped])
  const ways = 'ways' in found ? found.ways : undefined
  const look = useCallback(
    async () =>
      ways
        ? secondsWith(
            job,
            id,
            ways.map(({ change }) => change),
          )
        : [],
    [job, id, ways],
  )
  const { value: seconds, isCurrent } = useAnswer(ways ? look : undefined)
  const soonest = seconds && seconds.length > 0 ? Math.min(...seconds) : undefined
  return (
    <Sheet width={330} data-testid="asked-result">
      <Title variant="h2">What shall come out?</Title>
      {kinds.length > 1 ? (
        <Choice
          label="It shall be"
          value={kind}
          options={Object.fromEntries(kinds.map((each) => [each, NAMES[each]])) as Record<Result['kind'], string>}
          testId="asked-kind"
          onChoose={setKind}
        />
      ) : (
        <Words weight="strong">{NAMES[kind]}</Words>
      )}
      {(kind === 'depth' || kind === 'tone') && (
        <Row align="baseline">
          <Words grow>{kind === 'depth' ? 'Depth' : 'Tone, 100 % fully dark'}</Words>
          <InputBase
            autoFocus
            value={text}
            onChange={(event) => setTyped({ ...typed, [kind]: event.target.value })}
            inputProps={{ 'aria-label': kind === 'depth' ? 'Depth wanted' : 'Tone wanted', inputMode: 'decimal' }}
            style={{ width: 80, borderBottom: '1px solid' }}
          />
          <Quiet>{kind === 'depth' ? 'mm' : '%'}</Quiet>
        </Row>
      )}
      {'not' in found && <Wrong role="alert">{found.not}</Wrong>}
      {ways?.map((way, i) => (
        <PickCard key={way.id} chosen={false} onClick={() => onTake(way)} data-testid={`way-${way.id}`}>
          <Row align="baseline" pack="space-between">
            <b>{way.title}</b>
            <b>{isCurrent && seconds?.[i] !== undefined ? formatDuration(seconds[i]) : '…'}</b>
          </Row>
          <span>{settingWords(way.change)}</span>
          <Quiet>
            {sureWords(way.off)}
            {isCurrent && seconds?.[i] === soonest ? ' · the quickest' : ''}
          </Quiet>
        </PickCard>
      ))}
      {ways && <Quiet>{ways[0].why}</Quiet>}
    </Sheet>
  )
}

/** From an operation to settings by what shall come out. */
export function AskResult({ job, id }: { readonly job: JobDocument; readonly id: string }) {
  const edit = useEdit()
  const button = useRef<HTMLButtonElement>(null)
  const [open, setOpen] = useState(false)
  // Another operation is another question.
  // biome-ignore lint/correctness/useExhaustiveDependencies: closes when another is looked at
  useEffect(() => setOpen(false), [id])
  if (wantable(job, id).length === 0) return null
  return (
    <>
      <Button
        ref={button}
        fullWidth
        variant="outlined"
        color="secondary"
        onClick={() => setOpen(true)}
        data-testid="ask-result"
        style={{ marginTop: 4 }}
      >
        Ask for the result…
      </Button>
      <Popover
        open={open}
        anchorEl={() => button.current!}
        onClose={() => setOpen(false)}
        anchorOrigin={{ vertical: 'top', horizontal: 'left' }}
        transformOrigin={{ vertical: 'top', horizontal: 'right' }}
      >
        {open && (
          <Asked
            job={job}
            id={id}
            onTake={(way) => {
              edit(`${way.title.toLowerCase()}: ${settingWords(way.change)}`, (base) => withOperation(base, id, way.change))
              setOpen(false)
            }}
          />
        )}
      </Popover>
    </>
  )
}
