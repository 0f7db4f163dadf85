import { Button, styled } from '@mui/material'
import { faceSize, type JobDocument, mainPiece, RANGES } from '@neotaxis/core'
import { Row } from '../../parts/Row.tsx'
import { Title } from '../../parts/Title.tsx'
import { Quiet } from '../../parts/words.tsx'
import { useDispatch, useSelector } from '../../store/hooks.ts'
import { linedUpBy, marginChosen, spacingChosen } from '../../store/view-slice.ts'
import { PLACES, runCommand } from '../bar/commands.ts'
import { Choice } from '../field/Choice.tsx'
import { LengthField } from '../field/quantities.tsx'
import { NinePlaces } from './NinePlaces.tsx'

const LINED_UP = { 'each other': 'each other', 'the workpiece': 'the workpiece' } as const
/** Where the selection lies on its workpiece: a small one, whose corners, edges and middle are pressed. */
export function PlaceFields({ job, count }: { readonly job: JobDocument; readonly count: number }) {
  const dispatch = useDispatch()
  const { marginMm, spacingMm, linedUpBy: by } = useSelector((state) => state.view)
  const { widthMm, heightMm } = faceSize(mainPiece(job))
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
        <NinePlaces
          ratio={heightMm / widthMm}
          label="Put the selection"
          tell={(id) => `Put it ${PLACES.find((place) => place.id === id)!.where}`}
          prefix="put"
          onPress={(id) => runCommand(`put-${id}`)}
        />
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
      <LengthField
        label="Between pieces"
        value={spacingMm}
        range={RANGES.marginMm}
        hint="How far pieces keep from each other where they are laid out."
        onCommit={(v) => dispatch(spacingChosen(v))}
      />
      {isSeveral && (
        <Row top="tight">
          <Button size="small" variant="outlined" color="secondary" onClick={() => runCommand('lay-out')} data-testid="lay-out">
            Lay out closely
          </Button>
          <Button size="small" onClick={() => runCommand('lay-out-straight')} data-testid="lay-out-straight">
            along the grain
          </Button>
        </Row>
      )}
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
          <Row top="tight">
            <Button
              size="small"
              variant="outlined"
              color="secondary"
              onClick={() => runCommand('fill-sheet')}
              data-testid="fill-sheet"
            >
              As often as it goes
            </Button>
            <Button size="small" onClick={() => runCommand('fill-sheet-straight')} data-testid="fill-sheet-straight">
              along the grain
            </Button>
          </Row>
        </>
      )}
    </>
  )
}

const Plain = styled(Button)({ display: 'block', minWidth: 0, whiteSpace: 'nowrap' })
