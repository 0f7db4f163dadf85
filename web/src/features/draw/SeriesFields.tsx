import { Button } from '@mui/material'
import { columnOf, entryText, numberSeries, readTable, type Table, type TextSpec } from '@neotaxis/core'
import { useRef, useState } from 'react'
import { Quiet, Wrong } from '../../parts/words.tsx'
import { drawnFile } from '../../workers/engine.ts'
import { Choice } from '../field/Choice.tsx'
import { CountField, LengthField } from '../field/quantities.tsx'
import { FilePick } from './FilePick.tsx'

interface Props {
  readonly text: TextSpec
  readonly onSeries: (series: TextSpec['series']) => void
}

const PITCH = { min: 0.1, max: 10_000 }

/** Room from one text to the next: that of the longest one and a capital's height. */
async function roomFor(text: TextSpec, entries: readonly string[]): Promise<{ pitchXMm: number; pitchYMm: number }> {
  const longest = entries.reduce((a, b) => (b.length > a.length ? b : a))
  const { box } = await drawnFile({ ...text, text: entryText(text.text, longest), series: undefined })
  return { pitchXMm: Math.ceil(box.x1 - box.x0 + text.capMm), pitchYMm: Math.ceil(box.y1 - box.y0 + text.capMm) }
}

const sentence = (cause: unknown): string => (cause instanceof Error ? cause.message : 'It cannot be read.')

/** One text for each number or name of a list, in rows and columns. */
export function SeriesFields({ text, onSeries }: Props) {
  const { series } = text
  const [counts, setCounts] = useState({ from: 1, to: 12, digits: 2 })
  const [counting, setCounting] = useState(false)
  const [table, setTable] = useState<Table>()
  const [error, setError] = useState<string>()
  const input = useRef<HTMLInputElement>(null)
  // Room is worked out while more is chosen: only what was chosen last is taken.
  const latest = useRef(0)
  const [awaited, setAwaited] = useState(false)
  const entries = async (found: readonly string[]): Promise<void> => {
    const mine = ++latest.current
    setError(found.length === 0 ? 'This column holds nothing.' : undefined)
    setAwaited(found.length > 0)
    if (found.length === 0) return
    try {
      const room = series ?? (await roomFor(text, found))
      if (mine !== latest.current) return
      onSeries({ columns: 3, ...room, entries: found })
    } catch (cause) {
      if (mine !== latest.current) return
      setError(sentence(cause))
    }
    setAwaited(false)
  }
  const count = (now: typeof counts): void => {
    setCounts(now)
    setTable(undefined)
    setCounting(true)
    try {
      void entries(numberSeries(now.from, now.to, 1, now.digits))
    } catch (cause) {
      setError(sentence(cause))
    }
  }
  const open = async (file: File): Promise<void> => {
    try {
      const found = readTable(await file.text())
      setTable(found)
      setCounting(false)
      await entries(columnOf(found, 0))
    } catch (cause) {
      setError(`${file.name}: ${sentence(cause)}`)
    }
  }
  const kind = series === undefined && !awaited ? 'one' : table ? 'table' : counting ? 'numbers' : 'kept'
  return (
    <>
      <Choice<string>
        label="For whom"
        testId="draw-series"
        value={kind}
        options={{
          one: 'one text',
          ...(kind === 'kept' && series ? { kept: `these ${series.entries.length}` } : {}),
          numbers: 'numbers in a row',
          table: table ? 'a column of a table' : 'a column of a table (CSV)…',
        }}
        onChoose={(value) => {
          if (value === 'one') {
            latest.current++
            setAwaited(false)
            setError(undefined)
            setTable(undefined)
            setCounting(false)
            onSeries(undefined)
          } else if (value === 'numbers') count(counts)
          else if (value === 'table') input.current?.click()
        }}
      />
      <FilePick at={input} accept=".csv,.tsv,.txt" testId="series-file" onFile={(file) => void open(file)} />
      {kind === 'numbers' && (
        <>
          <CountField
            label="From"
            value={counts.from}
            range={{ min: 0, max: 999_999 }}
            onCommit={(from) => count({ ...counts, from })}
          />
          <CountField label="To" value={counts.to} range={{ min: 0, max: 999_999 }} onCommit={(to) => count({ ...counts, to })} />
          <CountField
            label="Digits"
            value={counts.digits}
            range={{ min: 1, max: 9 }}
            onCommit={(digits) => count({ ...counts, digits })}
          />
        </>
      )}
      {table && (
        <Choice
          label="Column"
          testId="series-column"
          value={String(table.columns.findIndex((_, i) => columnOf(table, i).join('\n') === series?.entries.join('\n')))}
          options={Object.fromEntries(table.columns.map((name, i) => [String(i), name]))}
          onChoose={(value) => void entries(columnOf(table, Number(value)))}
        />
      )}
      {series && (
        <>
          <Quiet pad="tight" data-testid="series-facts">
            {series.entries.length} texts: {series.entries.slice(0, 3).join(', ')}
            {series.entries.length > 3 ? ` … ${series.entries.at(-1)}` : ''}. Where the text has {'{}'}, the entry stands there.
          </Quiet>
          <CountField
            label="Side by side"
            value={series.columns}
            range={{ min: 1, max: 200 }}
            onCommit={(columns) => onSeries({ ...series, columns })}
          />
          <LengthField
            label="Pitch across"
            value={series.pitchXMm}
            range={PITCH}
            digits={2}
            onCommit={(pitchXMm) => onSeries({ ...series, pitchXMm })}
          />
          <LengthField
            label="Pitch down"
            value={series.pitchYMm}
            range={PITCH}
            digits={2}
            onCommit={(pitchYMm) => onSeries({ ...series, pitchYMm })}
          />
          {table && (
            <Button size="small" color="secondary" onClick={() => input.current?.click()}>
              Another table
            </Button>
          )}
        </>
      )}
      {error && <Wrong role="alert">{error}</Wrong>}
    </>
  )
}
