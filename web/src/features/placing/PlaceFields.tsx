import { Button, ButtonBase, styled } from '@mui/material'
import { faceSize, type JobDocument, mainPiece, RANGES } from '@neotaxis/core'
import { Row } from '../../parts/Row.tsx'
import { Title } from '../../parts/Title.tsx'
import { Quiet } from '../../parts/words.tsx'
import { useDispatch, useSelector } from '../../store/hooks.ts'
import { linedUpBy, marginChosen } from '../../store/view-slice.ts'
import { PLACES, runCommand } from '../bar/commands.ts'
import { Choice } from '../field/Choice.tsx'
import { LengthField } from '../field/quantities.tsx'

const LINED_UP = { 'each other': 'each other', 'the workpiece': 'the workpiece' } as const
/** The workpiece in small, px. */
const WIDE = 132
const HIGHEST = 108

/** Where the selection lies on its workpiece: a small one, whose corners, edges and middle are pressed. */
export function PlaceFields({ job, count }: { readonly job: JobDocument; readonly count: number }) {
  const dispatch = useDispatch()
  const { marginMm, linedUpBy: by } = useSelector((state) => state.view)
  const { widthMm, heightMm } = faceSize(mainPiece(job))
  const high = Math.min(HIGHEST, Math.max(66, (WIDE * heightMm) / widthMm))
  const isSeveral = count > 1
  return (
    <>
      <Title variant="h3" top="wide" bottom="tight">
        Place
      </Title>
      {isSeveral && (
        <Choice
          label="In line by"
          value={by}
          options={LINED_UP}
          testId="lined-up-by"
          onChoose={(to) => dispatch(linedUpBy(to))}
        />
      )}
      <Row align="start" gap="room">
        <Small style={{ width: WIDE, height: high }} role="group" aria-label="Put the selection">
          {PLACES.filter(({ id }) => id !== 'across' && id !== 'down').map(({ id, where }) => (
            <Spot
              key={id}
              onClick={() => runCommand(`put-${id}`)}
              aria-label={`Put it ${where}`}
              title={`Put it ${where}`}
              data-testid={`put-${id}`}
            >
              <span />
            </Spot>
          ))}
        </Small>
        <div>
          <Plain size="small" onClick={() => runCommand('put-across')} data-testid="put-across">
            midway across
          </Plain>
          <Plain size="small" onClick={() => runCommand('put-down')} data-testid="put-down">
            midway down
          </Plain>
          <Plain size="small" onClick={() => runCommand('make-level')} data-testid="make-level">
            make a line level
          </Plain>
        </div>
      </Row>
      {count > 2 && (
        <Row top="tight">
          <Button size="small" onClick={() => runCommand('gaps-across')} data-testid="gaps-across">
            Even gaps across
          </Button>
          <Button size="small" onClick={() => runCommand('gaps-down')} data-testid="gaps-down">
            Even gaps down
          </Button>
        </Row>
      )}
      <LengthField
        label="Margin"
        value={marginMm}
        range={RANGES.marginMm}
        hint="How far it keeps from the edge where it is put there, or made as large as can be."
        onCommit={(v) => dispatch(marginChosen(v))}
      />
      {!isSeveral && (
        <>
          <Row top="tight">
            <Button
              size="small"
              variant="outlined"
              color="secondary"
              onClick={() => runCommand('as-large')}
              data-testid="as-large"
            >
              As large as it goes
            </Button>
            <Button size="small" onClick={() => runCommand('as-large-straight')} data-testid="as-large-straight">
              not turned
            </Button>
          </Row>
          <Quiet top="tight">Within the true edge of the workpiece, clear of what must stay free.</Quiet>
        </>
      )}
    </>
  )
}

const Small = styled('div')(({ theme }) => ({
  display: 'grid',
  gridTemplateColumns: 'repeat(3, 1fr)',
  gridTemplateRows: 'repeat(3, 1fr)',
  flexShrink: 0,
  background: theme.palette.background.paper,
  border: `1px solid ${theme.palette.divider}`,
  borderRadius: 4,
}))

const Spot = styled(ButtonBase)(({ theme }) => ({
  minHeight: 22,
  '& span': { width: 9, height: 9, borderRadius: 9, background: theme.palette.text.secondary, opacity: 0.55 },
  '&:hover span, &:focus-visible span': { background: theme.palette.primary.main, opacity: 1, transform: 'scale(1.4)' },
}))

const Plain = styled(Button)({ display: 'block', minWidth: 0, whiteSpace: 'nowrap' })
