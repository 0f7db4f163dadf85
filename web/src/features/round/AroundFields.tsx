import { Button } from '@mui/material'
import {
  acrossFrom,
  type Bounds,
  byKeepOut,
  type Closing,
  closedByGap,
  closedByScale,
  type JobDocument,
  mainPiece,
  onceAround,
  onceRound,
  onFace,
  RANGES,
  reachAround,
  roundRows,
  seenFromFront,
  sizedAsSeen,
  timesRound,
  uprightBy,
} from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { Row } from '../../parts/Row.tsx'
import { Title } from '../../parts/Title.tsx'
import { Quiet } from '../../parts/words.tsx'
import { CountField, LengthField } from '../field/quantities.tsx'
import { type Change, useEdit } from '../use-edit.ts'

/** Where artwork lies around what turns, how often, and how it closes. */
export function AroundFields({ job, node, box }: { readonly job: JobDocument; readonly node: string; readonly box: Bounds }) {
  const edit = useEdit()
  const { enqueueSnackbar } = useSnackbar()
  const around = onceAround(mainPiece(job))
  if (around === undefined) return null
  const reach = reachAround(job, node, box)
  const rows = roundRows(job, node, box)
  const { keepOuts, surface } = mainPiece(job)
  const lip = surface.kind === 'flat' ? undefined : surface.lip
  const change = (name: string, by: Change): void => {
    try {
      edit(name, by)
    } catch (cause) {
      enqueueSnackbar(cause instanceof Error ? cause.message : 'It cannot lie there.', { variant: 'error' })
    }
  }
  const times = (closing: Closing, count?: number, bands = rows?.bands ?? 1): void =>
    change(`${count ?? ''} times around, closing`.trim(), (base) =>
      timesRound(base, node, closing, { ...(count && { count }), bands, seen: box }),
    )
  const [byScale, byGap] = [closedByScale(reach, around), closedByGap(reach, around)]
  return (
    <>
      <Title variant="h3" top="wide" bottom="tight">
        Around
      </Title>
      <Row wraps gap="tight">
        <Button
          size="small"
          variant="outlined"
          color="secondary"
          onClick={() => change('turn it upright', (base) => uprightBy(base, node))}
          data-testid="upright"
        >
          {lip ? 'Upright: its top at the lip' : 'Upright: its top to the left'}
        </Button>
        <Button size="small" onClick={() => change('once around', (base) => onceRound(base, node, box))} data-testid="once-round">
          Once around
        </Button>
        <Button
          size="small"
          onClick={() => change('to the other side', (base) => acrossFrom(base, node))}
          data-testid="other-side"
        >
          To the other side
        </Button>
        {Object.entries(keepOuts).map(([id, { name }]) => (
          <Row key={id} gap="tight" wraps>
            <Button size="small" onClick={() => change(`opposite “${name}”`, (base) => byKeepOut(base, node, id, true, box))}>
              Opposite “{name}”
            </Button>
            <Button size="small" onClick={() => change(`middle on “${name}”`, (base) => byKeepOut(base, node, id, false, box))}>
              On “{name}”
            </Button>
          </Row>
        ))}
        {onFace(job, node) !== job && (
          <Button size="small" onClick={() => change('bring it round', (base) => onFace(base, node))} data-testid="bring-round">
            Bring it round onto the face
          </Button>
        )}
      </Row>
      <LengthField
        label="Seen width"
        value={seenFromFront(job, node, box) ?? reach}
        range={RANGES.sizeMm}
        hint="As wide as an eye sees it that looks straight at its middle."
        onCommit={(mm) => change('size as it is seen', (base) => sizedAsSeen(base, node, mm, box))}
      />
      <Title variant="h3" top="wide" bottom="tight">
        How it closes
      </Title>
      <Row wraps gap="tight">
        <Button
          size="small"
          variant="outlined"
          color="secondary"
          onClick={() => times('scale', byScale.count)}
          data-testid="close-by-size"
        >
          {byScale.count} times, {Math.round(100 * byScale.scale)} % as large
        </Button>
        <Button
          size="small"
          variant="outlined"
          color="secondary"
          onClick={() => times('gap', byGap.count)}
          data-testid="close-by-gap"
        >
          {byGap.count} times, gaps of {byGap.gapMm.toFixed(1)} mm
        </Button>
      </Row>
      {rows && (
        <>
          <CountField label="Times around" value={rows.count} range={RANGES.repeats} onCommit={(count) => times('gap', count)} />
          <CountField
            label="Bands"
            value={rows.bands}
            range={RANGES.repeats}
            onCommit={(bands) => times('gap', rows.count, bands)}
          />
          <Quiet>
            {rows.gapMm < -0.005
              ? `They lie ${(-rows.gapMm).toFixed(2)} mm over each other.`
              : `${rows.gapMm.toFixed(2)} mm from one to the next, at the seam too.`}
          </Quiet>
        </>
      )}
    </>
  )
}
