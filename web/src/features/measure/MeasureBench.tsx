import { Button, ToggleButton, ToggleButtonGroup, Tooltip } from '@mui/material'
import {
  cellPoints,
  counted,
  fittedTrial,
  type JobDocument,
  materialTried,
  QUANTITY_WORDS,
  quantitiesOf,
  readingsTable,
  readingTroubles,
  readReadings,
  type TrialQuantity,
  tellCell,
  trialOf,
  withBest,
  withLeftOut,
  withReadings,
} from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useMemo, useState } from 'react'
import { useDropzone } from 'react-dropzone'
import { Card } from '../../parts/Card.tsx'
import { DropVeil } from '../../parts/DropVeil.tsx'
import { AreaColumn } from '../../parts/Frame.tsx'
import { Row, Spread } from '../../parts/Row.tsx'
import { Title } from '../../parts/Title.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { saveText } from '../bar/save-files.ts'
import { useEdit } from '../use-edit.ts'
import { CardGrid } from './CardGrid.tsx'
import { CurveChart } from './CurveChart.tsx'
import { CurveFacts } from './CurveFacts.tsx'
import { Outcome, Sides } from './card-parts.tsx'
import { KeepBest, KeepCurve } from './KeepFound.tsx'
import { ReadGauge } from './ReadGauge.tsx'
import { ReadPhoto } from './ReadPhoto.tsx'
import { ReadSlots } from './ReadSlots.tsx'

/** A row with more cells than this has the whole width: what came out stands under it. */
const LONG = 6

/** What came out on a card of trials: readings cell by cell, the curve through them, the best of them; and what becomes of it. */
export function MeasureBench({ job }: { readonly job: JobDocument }) {
  const edit = useEdit()
  const { enqueueSnackbar } = useSnackbar()
  const trial = trialOf(job)
  const quantities = quantitiesOf(job)
  const read = quantities.find((each) => Object.values(trial.readings ?? {}).some((cell) => cell[each]))
  const [chosen, setChosen] = useState<TrialQuantity>()
  // What is burned as a picture is judged by its tones.
  const usual = trial.isFor === 'picture' && quantities.includes('tone') ? 'tone' : quantities[0]
  const quantity = chosen ?? read ?? usual
  const [shown, setShown] = useState<string>()
  const points = useMemo(() => cellPoints(job, quantity), [job, quantity])
  const curve = useMemo(() => fittedTrial(job, quantity), [job, quantity])
  const troubles = useMemo(() => readingTroubles(job, quantity), [job, quantity])
  const { name, unit } = QUANTITY_WORDS[quantity]

  /** Takes a table; what of it cannot be taken is told. @returns whether it was one */
  const takeTable = (text: string): boolean => {
    try {
      const { job: next, cells, quantities: of, troubles: rows } = readReadings(text, job)
      if (cells > 0) {
        edit('readings from a table', () => next)
        setChosen(of[0])
      }
      enqueueSnackbar(
        `Read: ${counted(cells, 'cell')}${rows.length > 0 ? `; not read: ${counted(rows.length, 'row')}. ${rows[0].message}` : '.'}`,
        {
          variant: rows.length > 0 ? 'warning' : 'default',
          ...(rows.length > 0 && { autoHideDuration: 15_000 }),
        },
      )
      return true
    } catch (cause) {
      enqueueSnackbar(cause instanceof Error ? cause.message : 'This is no table.', { variant: 'error' })
      return false
    }
  }
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    multiple: false,
    onDrop: ([file]) => void file?.text().then(takeTable),
  })
  return (
    <AreaColumn {...getRootProps()} name="stage" style={{ outline: 'none' }} data-testid="measure-bench">
      <input {...getInputProps({ 'aria-label': 'A table of readings' })} data-testid="readings-file" />
      <Row wraps>
        <Title variant="h1">What came out</Title>
        <ToggleButtonGroup
          exclusive
          size="small"
          value={quantity}
          onChange={(_, next: TrialQuantity | null) => next && setChosen(next)}
          aria-label="What is measured"
        >
          {quantities.map((each) => (
            <ToggleButton key={each} value={each} data-testid={`measure-${each}`}>
              {QUANTITY_WORDS[each].name}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        <Spread />
        <ReadGauge
          job={job}
          quantity={quantity}
          onRead={(values) =>
            edit(`${name} by the simulated gauge`, (base) =>
              [...values].reduce((sum, [cell, value]) => withReadings(sum, cell, { [quantity]: [value] }), base),
            )
          }
        />
        <ReadPhoto
          job={job}
          onTones={({ tones, contrast }) => {
            edit('tones from a photo', (base) =>
              [...tones].reduce<JobDocument>((sum, [cell, tone]) => withReadings(sum, cell, { tone: [tone] }), {
                ...base,
                trial: { ...trialOf(base), contrast },
              }),
            )
            setChosen('tone')
          }}
        />
        {quantity === 'kerf' && (
          <ReadSlots
            job={job}
            onSlots={(widths) =>
              edit('slots, measured with the head', (base) =>
                [...widths].reduce<JobDocument>((sum, [cell, kerf]) => withReadings(sum, cell, { kerf: [kerf] }), base),
              )
            }
          />
        )}
        <Button variant="outlined" color="secondary" onClick={open} data-testid="open-readings">
          Table…
        </Button>
        <Tooltip title="The cells as a table, to be filled in at a bench without a screen">
          <Button
            variant="outlined"
            color="secondary"
            onClick={() => saveText(readingsTable(job), `${job.name}.csv`, 'text/csv')}
          >
            Save as table
          </Button>
        </Tooltip>
      </Row>
      <Sides long={trial.across.values.length > LONG}>
        <CardGrid
          job={job}
          quantity={quantity}
          shown={shown}
          onShow={setShown}
          onRead={(cell, values) =>
            edit(`${name} of ${tellCell(trial, cell)}`, (base) => withReadings(base, cell, { [quantity]: values }))
          }
          onBest={(cell) => edit(cell ? 'the best of the card' : 'none is the best', (base) => withBest(base, cell))}
          onPaste={takeTable}
        />
        <Outcome long={trial.across.values.length > LONG}>
          <Card as="section" aria-label="The curve">
            <Title variant="h2">
              {name[0].toUpperCase() + name.slice(1)} of {materialTried(job).name}
            </Title>
            {points.length === 0 ? (
              <Words tone="quiet" pad="open">
                Nothing was measured yet: the {name} in {unit}, cell by cell, from a table
                {quantity === 'tone' ? ', or from a photo' : ''}.
              </Words>
            ) : (
              <CurveChart
                quantity={quantity}
                high={280}
                curve={curve}
                points={points.flatMap(({ cell, input, readings }) =>
                  readings.map((y, i) => ({
                    key: cell,
                    x: input,
                    y,
                    label: `${tellCell(trial, cell)}${i > 0 ? `, again` : ''}`,
                  })),
                )}
                onPoint={setShown}
              />
            )}
            {curve && <CurveFacts quantity={quantity} curve={curve} />}
            {points.length > 0 && !curve && <Quiet>A curve is drawn from four cells on.</Quiet>}
            {troubles.map(({ cell, message, isOff }) => (
              <Row key={`${cell} ${message}`} align="start" data-testid="reading-trouble">
                <Words grow tone="ask" size="small">
                  {message}
                </Words>
                {isOff && (
                  <Button size="small" onClick={() => edit('a reading left out', (base) => withLeftOut(base, cell, true))}>
                    Leave it out
                  </Button>
                )}
              </Row>
            ))}
            {(trial.leftOut ?? []).map((cell) => (
              <Row key={cell}>
                <Quiet grow>{tellCell(trial, cell)} is left out of the curve.</Quiet>
                <Button size="small" onClick={() => edit('a reading counted again', (base) => withLeftOut(base, cell, false))}>
                  Count it
                </Button>
              </Row>
            ))}
            <KeepCurve job={job} quantity={quantity} hasTrouble={troubles.length > 0} ready={curve !== undefined} />
          </Card>
          <KeepBest job={job} />
        </Outcome>
      </Sides>
      {isDragActive && <DropVeil>Let go: its readings go to the cells of the card</DropVeil>}
    </AreaColumn>
  )
}
