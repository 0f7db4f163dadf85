import StarIcon from '@mui/icons-material/Star'
import StarBorderIcon from '@mui/icons-material/StarBorder'
import { Tooltip } from '@mui/material'
import {
  cellInput,
  cellsOf,
  type JobDocument,
  materialTried,
  QUANTITY_WORDS,
  TRIAL_UNITS,
  TRIAL_WORDS,
  type TrialQuantity,
  tellCell,
  toneOf,
  trialOf,
  trialValue,
} from '@neotaxis/core'
import type { ClipboardEvent } from 'react'
import { Quiet, Words } from '../../parts/words.tsx'
import { CellField } from './CellField.tsx'
import { Best, Cell, Corner, Grid, Head } from './card-parts.tsx'

interface Props {
  readonly job: JobDocument
  readonly quantity: TrialQuantity
  readonly shown?: string | undefined
  readonly onShow: (cell: string | undefined) => void
  readonly onRead: (cell: string, readings: readonly number[]) => void
  readonly onBest: (cell: string | undefined) => void
  readonly onPaste: (text: string, from: string) => boolean
}

type Rgb = readonly [number, number, number]

const mixed = (a: Rgb, b: Rgb, share: number): string => `rgb(${a.map((v, i) => Math.round(v + (b[i] - v) * share)).join(' ')})`

/** The card as it lies there: each cell as dark as it was read, or is forecast to be, with its reading to be typed. */
export function CardGrid({ job, quantity, shown, onShow, onRead, onBest, onPaste }: Props) {
  const trial = trialOf(job)
  const { across, down, again, cells, readings, leftOut, best } = trial
  const { look, ...material } = materialTried(job)
  const { name, unit } = QUANTITY_WORDS[quantity]
  const toneAt = (cell: string): number => {
    const read = readings?.[cell]?.tone
    if (read) return read[read.length >> 1]
    const dose = cellInput(job, cell, 'tone')
    return dose === undefined ? 0.6 : toneOf({ look, ...material }, dose, job.machine.id)
  }
  const paste = (event: ClipboardEvent, cell: string): void => {
    const text = event.clipboardData.getData('text')
    if (/[\t\n;]/.test(text.trim()) && onPaste(text, cell)) event.preventDefault()
  }
  return (
    <Grid columns={across.values.length} aria-label="The card, cell by cell" role="group" data-testid="card-grid">
      <Corner>
        <Quiet weight="strong">
          {TRIAL_WORDS[across.setting]} {TRIAL_UNITS[across.setting]} →
        </Quiet>
        {down && (
          <Quiet weight="strong">
            {TRIAL_WORDS[down.setting]} {TRIAL_UNITS[down.setting]} ↓
          </Quiet>
        )}
      </Corner>
      {across.values.map((value) => (
        <Head key={value}>{trialValue(across.setting, value)}</Head>
      ))}
      {cellsOf(trial).map((cell) => {
        const { column, row, again: grid = 0 } = cells[cell]
        const told = tellCell(trial, cell) ?? cell
        const tone = toneAt(cell)
        const isBest = cell === best
        return [
          again && column === 0 && row === 0 && (
            <Words key={`grid-${grid}`} size="plain" weight="strong" style={{ gridColumn: '1 / -1' }}>
              {TRIAL_WORDS[again.setting]} {trialValue(again.setting, again.values[grid])} {TRIAL_UNITS[again.setting]}
            </Words>
          ),
          column === 0 && <Head key={`row-${grid}-${row}`}>{down ? trialValue(down.setting, down.values[row]) : ''}</Head>,
          <Cell
            key={cell}
            shown={cell === shown}
            out={leftOut?.includes(cell) ?? false}
            style={{ background: mixed(look.surface, look.burn, tone) }}
            onMouseEnter={() => onShow(cell)}
            onMouseLeave={() => onShow(undefined)}
            data-testid={`cell-${row + 1}-${column + 1}${grid > 0 ? `-${grid + 1}` : ''}`}
          >
            <Tooltip title={isBest ? `${told} came out best` : `${told} came out best?`}>
              <Best
                aria-pressed={isBest}
                aria-label={`${told} came out best`}
                isBest={isBest}
                onClick={() => onBest(isBest ? undefined : cell)}
              >
                {isBest ? <StarIcon fontSize="small" /> : <StarBorderIcon fontSize="small" />}
              </Best>
            </Tooltip>
            <CellField
              label={`${name} at ${told}, ${unit}`}
              quantity={quantity}
              readings={readings?.[cell]?.[quantity] ?? []}
              onRead={(values) => onRead(cell, values)}
              onPaste={(event) => paste(event, cell)}
              onFocus={() => onShow(cell)}
            />
          </Cell>,
        ]
      })}
      <Words size="small" tone="quiet" style={{ gridColumn: '1 / -1' }}>
        Type the {name} of each cell in {unit}; several readings of one with a stroke between them: 0.5/0.52. A table can be
        pasted or dropped. The star marks the one that came out best.
      </Words>
    </Grid>
  )
}
