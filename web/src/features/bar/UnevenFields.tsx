import { Button } from '@mui/material'
import {
  type Flat,
  type JobDocument,
  RANGES,
  readHeights,
  withFollowing,
  withHeights,
  withPiece,
  withStrips,
} from '@neotaxis/core'
import { useRef, useState } from 'react'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { Quiet, Wrong } from '../../parts/words.tsx'
import { FilePick } from '../draw/FilePick.tsx'
import { CountField } from '../field/quantities.tsx'
import { useEdit } from '../use-edit.ts'

/** Until somebody says otherwise it is probed at so many places. */
const FIRST = { columns: 5, rows: 4 }

const level = (columns: number, rows: number) => ({ columns, rows, mm: Array.from({ length: columns * rows }, () => 0) })

/** A face that is uneven: at how many places it is probed, how high it was found there, and whether the lens follows. */
export function UnevenFields({ job, surface }: { readonly job: JobDocument; readonly surface: Flat }) {
  const edit = useEdit()
  const { heights, follows, strips, arch } = surface
  const low = heights?.mm.reduce((a, b) => Math.min(a, b), 0) ?? 0
  const count = (columns: number, rows: number): void =>
    edit('places to probe', (base) => withHeights(base, level(columns, rows)))
  return (
    <>
      <SwitchRow
        label="Its face is uneven"
        on={heights !== undefined}
        onSwitch={(on) =>
          edit(on ? 'an uneven face' : 'a level face', (base) =>
            withHeights(base, on ? level(FIRST.columns, FIRST.rows) : undefined),
          )
        }
        testId="is-uneven"
      />
      {heights && (
        <>
          <CountField
            label="Places across"
            value={heights.columns}
            range={RANGES.heightPlaces}
            onCommit={(columns) => count(columns, heights.rows)}
          />
          <CountField
            label="Places down"
            value={heights.rows}
            range={RANGES.heightPlaces}
            onCommit={(rows) => count(heights.columns, rows)}
          />
          <Quiet data-testid="heights">
            {low < 0
              ? `Measured: its lowest place lies ${(-low).toFixed(2)} mm under its highest.`
              : 'Not measured yet: in the run, under Head, the probe touches it place by place. Or a table tells how high they stand over the bed, row by row from the rear.'}
          </Quiet>
          <HeightsFromTable />
        </>
      )}
      {arch && !heights && !job.machine.axes.z && (
        <SwitchRow
          label="In strips, with a pause for each focus"
          on={strips === true}
          onSwitch={(on) => edit(on ? 'strips by focus' : 'one focus', (base) => withStrips(base, on))}
          testId="in-strips"
        />
      )}
      {(heights || arch) && (
        <SwitchRow
          label="The lens follows its face"
          on={follows === true}
          disabled={!job.machine.axes.z}
          onSwitch={(on) => edit(on ? 'a lens that follows' : 'a lens that stays', (base) => withFollowing(base, on))}
          testId="lens-follows"
        />
      )}
    </>
  )
}

/** Heights that a gauge measured, from a table. */
function HeightsFromTable() {
  const edit = useEdit()
  const input = useRef<HTMLInputElement>(null)
  const [trouble, setTrouble] = useState('')
  const take = async (file: File): Promise<void> => {
    try {
      const { heights, thicknessMm } = readHeights(await file.text())
      edit('heights from a table', (base) => withPiece(withHeights(base, heights), { thicknessMm }))
      setTrouble('')
    } catch (cause) {
      setTrouble(cause instanceof RangeError ? cause.message : 'This file cannot be read.')
    }
  }
  return (
    <>
      <Button size="small" onClick={() => input.current?.click()}>
        Heights from a table…
      </Button>
      <FilePick at={input} accept=".csv,.tsv,.txt" testId="heights-file" onFile={(file) => void take(file)} />
      {trouble && <Wrong role="alert">{trouble}</Wrong>}
    </>
  )
}
