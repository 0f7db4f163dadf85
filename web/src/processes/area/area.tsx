import { Button } from '@mui/material'
import { type AreaOperation, deepened, depthOfFill, operationMaterial, RANGES, spotMm } from '@neotaxis/core'
import { Choice } from '../../features/field/Choice.tsx'
import { DegreesField, IntervalField, LengthField } from '../../features/field/quantities.tsx'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { useDispatch } from '../../store/hooks.ts'
import { comparing } from '../../store/view-slice.ts'
import { FollowFields } from '../FollowFields.tsx'
import { AreaDose } from '../picture/picture.tsx'
import { ASKED_BY_TONE, type ProcessFieldsProps, type ProcessPage } from '../process-page.ts'
import { PROCESS_WORDS } from '../process-words.ts'
import { RunUpField } from '../RunUpField.tsx'

/** The ways in which an area is filled, in words. */
export const FILL_NAMES: Readonly<Record<AreaOperation['strategy'], string>> = {
  sweep: 'sweeps across',
  patches: 'patch by patch',
  rings: 'rings along its edge',
}

const BEGINS: Readonly<Record<'lines' | 'rings', Readonly<Record<AreaOperation['begins'], string>>>> = {
  lines: { far: 'at the far side of the bed', near: 'at the near side of the bed' },
  rings: { far: 'at the edge, inwards', near: 'in the middle, outwards' },
}

/** How pieces share their sweeps. */
const SHARES = {
  each: 'each piece for itself',
  near: 'pieces that are near each other together',
  all: 'all pieces together, side to side',
} as const
const NEAR_MM = 20

function Fields({ id, operation, job, set }: ProcessFieldsProps) {
  const { intervalMm, strategy, deg, crossDeg, bothWays, begins, shareMm, insetMm } = operation as AreaOperation
  const dispatch = useDispatch()
  const put = (name: string, change: Partial<AreaOperation>) => set(name, change)
  const isRings = strategy === 'rings'
  const material = operationMaterial(job, operation)
  const depthMm = depthOfFill(operation as AreaOperation, material, job.machine)
  const deeper = (to: number) => deepened(operation as AreaOperation, to, material, job.machine)
  const shares = shareMm === undefined ? 'all' : shareMm === 0 ? 'each' : 'near'
  const spot = spotMm(job.machine)
  return (
    <>
      <Button
        fullWidth
        variant="outlined"
        color="secondary"
        onClick={() => dispatch(comparing(true))}
        data-testid="compare-fills"
        style={{ marginTop: 8 }}
      >
        Compare the ways to fill it
      </Button>
      <Choice
        label="Filled by"
        value={strategy}
        options={FILL_NAMES}
        testId="fill-strategy"
        onChoose={(to) => put(`filled by ${FILL_NAMES[to]}`, { strategy: to })}
      />
      <IntervalField
        label="Interval"
        value={intervalMm}
        range={RANGES.intervalMm}
        hint={`Distance of its lines, or “254 dpi”. ${Math.round(25.4 / intervalMm)} dpi; the spot is ${spot} mm.`}
        onCommit={(v) => put('interval', { intervalMm: v })}
      />
      {depthMm !== undefined && (
        <LengthField
          label="Depth"
          value={depthMm}
          range={{ min: 0.01, max: material.thicknessMm }}
          digits={2}
          step={0.1}
          hint="As measured on this material. Another depth sets the passes, and the power that they need: speed and interval stay."
          refuses={(v) => {
            const way = deeper(v)
            return 'not' in way ? way.not : undefined
          }}
          onCommit={(v) =>
            set('depth', (now, base) => {
              const way = deepened(now as AreaOperation, v, operationMaterial(base, now), base.machine)
              return 'change' in way ? way.change : {}
            })
          }
        />
      )}
      {!isRings && (
        <>
          <DegreesField
            label="Line angle"
            value={deg}
            range={RANGES.degrees}
            hint="Clockwise from the long way of the machine's head."
            onCommit={(v) => put('angle of the lines', { deg: v })}
          />
          <SwitchRow
            label="A second set across"
            on={crossDeg !== undefined}
            onSwitch={(on) => put(on ? 'lines across as well' : 'one set of lines', { crossDeg: on ? crossing(deg) : undefined })}
          />
          {crossDeg !== undefined && (
            <DegreesField
              label="Second angle"
              value={crossDeg}
              range={RANGES.degrees}
              onCommit={(v) => put('angle of the second set', { crossDeg: v })}
            />
          )}
          <SwitchRow
            label="Lines there and back"
            on={bothWays}
            onSwitch={(on) => put(on ? 'lines both ways' : 'lines one way', { bothWays: on })}
          />
          <RunUpField job={job} operation={operation as AreaOperation} set={set} />
        </>
      )}
      <Choice
        label="Begins"
        value={begins}
        options={BEGINS[isRings ? 'rings' : 'lines']}
        testId="fill-begins"
        onChoose={(to) => put('where it begins', { begins: to })}
      />
      {strategy === 'sweep' && (
        <>
          <Choice
            label="Sweeps over"
            value={shares}
            options={SHARES}
            testId="fill-shares"
            onChoose={(to) => put('what shares a sweep', { shareMm: to === 'all' ? undefined : to === 'each' ? 0 : NEAR_MM })}
          />
          {shares === 'near' && (
            <LengthField
              label="Near is within"
              value={shareMm ?? 0}
              range={RANGES.shareMm}
              onCommit={(v) => put('what shares a sweep', { shareMm: v })}
            />
          )}
        </>
      )}
      <LengthField
        label="Inside the edge by"
        value={insetMm}
        range={RANGES.insetMm}
        digits={3}
        step={0.01}
        hint={`${spot / 2} mm, half the spot, makes the burn as wide as the artwork.`}
        onCommit={(v) => put('inside the edge', { insetMm: v })}
      />
      <FollowFields id={id} job={job} operation={operation} set={set} corners={isRings} />
    </>
  )
}

/** A quarter turn from an angle, between −90 and 90. */
const crossing = (deg: number): number => (deg > 0 ? deg - 90 : deg + 90)

export const area: ProcessPage = {
  ...PROCESS_WORDS.area,
  how: (operation) => {
    const { strategy, crossDeg } = operation as AreaOperation
    return strategy === 'sweep' ? (crossDeg === undefined ? undefined : 'two angles') : strategy
  },
  texture: 'repeating-linear-gradient(0deg, rgb(255 255 255 / 20%) 0 1px, transparent 1px 4px)',
  textureSize: '100% 100%',
  ...ASKED_BY_TONE,
  Fields,
  Dose: AreaDose,
}
