import { Button, MenuItem, TextField, Typography } from '@mui/material'
import type { DeskLive } from '@neotaxis/contract'
import { type Machine, ROTARIES, type RotaryDevice, stepsPerMm } from '@neotaxis/core'
import { useState } from 'react'
import { useController } from 'react-hook-form'
import { Card } from '../../parts/Card.tsx'
import { Fields } from '../../parts/Fields.tsx'
import { Row, Spread } from '../../parts/Row.tsx'
import { Quiet, Wrong } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { lengthIn, type Measure, numberOf, WORDS } from '../field/measures.ts'
import { TypedField } from '../field/TypedField.tsx'
import { useKeepProfile } from './profile-form.tsx'
import { TurnTest } from './TurnTest.tsx'

/** What a device of its kind begins as. */
const FIRST = { roller: ROTARIES.rollers, chuck: ROTARIES.chuck } as const

/** Everything in which something can turn in a machine: rollers and chucks, what they are set to, and the test that corrects it. */
export function RotaryCards({ machine, desk }: { readonly machine: Machine; readonly desk: DeskLive | undefined }) {
  const { field, fieldState } = useController<Machine, 'rotaries'>({ name: 'rotaries' })
  const keep = useKeepProfile()
  const devices: Readonly<Record<string, RotaryDevice>> = { ...ROTARIES, ...field.value }
  const put = (id: string, device: RotaryDevice): void => {
    field.onChange({ ...field.value, [id]: device })
    keep()
  }
  const add = (): void => {
    const last = Math.max(1, ...Object.keys(devices).map((id) => Number(/^rotary-(\d+)$/.exec(id)?.[1] ?? 0)))
    put(`rotary-${last + 1}`, { ...ROTARIES.chuck, name: 'Another chuck' })
  }
  return (
    <Card gap="room" as="section" aria-label="Rotaries">
      <Typography variant="h3">Rotaries: what something round turns in</Typography>
      {Object.entries(devices).map(([id, device]) => (
        <RotaryFields key={id} machine={machine} desk={desk} device={device} onChange={(next) => put(id, next)} />
      ))}
      {fieldState.error && <Wrong role="alert">These values contradict each other: {told(fieldState.error)}</Wrong>}
      <Button onClick={add} sx={{ justifySelf: 'start' }} data-testid="add-rotary">
        Add a rotary
      </Button>
    </Card>
  )
}

/** The first sentence in what a form says of a part of a profile. */
function told(error: unknown): string {
  if (typeof error !== 'object' || error === null) return ''
  if ('message' in error && typeof error.message === 'string' && error.message !== '') return error.message
  return (
    Object.values(error)
      .map(told)
      .find((text) => text !== '') ?? ''
  )
}

interface DeviceProps {
  readonly machine: Machine
  readonly desk: DeskLive | undefined
  readonly device: RotaryDevice
  readonly onChange: (device: RotaryDevice) => void
}

function RotaryFields({ machine, desk, device, onChange }: DeviceProps) {
  const mm = lengthIn(
    useSelector((state) => state.view.lengthUnit),
    3,
  )
  const [testing, setTesting] = useState(false)
  const { drive } = device
  const value = (label: string, of: number, as: Measure, take: (next: number) => Partial<RotaryDevice>) => (
    <TypedField label={label} value={of} as={as} onTake={(next) => onChange({ ...device, ...take(next) })} />
  )
  return (
    <section aria-label={device.name} data-testid={`rotary-${drive.kind}`}>
      <Fields>
        <TypedField label="Called" value={device.name} as={WORDS} onTake={(name) => name && onChange({ ...device, name })} />
        <TextField
          select
          size="small"
          label="Turns by"
          value={drive.kind}
          onChange={({ target }) => {
            const kind = target.value as keyof typeof FIRST
            if (kind !== drive.kind) onChange({ ...FIRST[kind], name: device.name })
          }}
        >
          <MenuItem value="roller">rollers under it</MenuItem>
          <MenuItem value="chuck">jaws at its end</MenuItem>
        </TextField>
        {value('Steps a turn', drive.stepsPerTurn, numberOf('', 3), (stepsPerTurn) => ({ drive: { ...drive, stepsPerTurn } }))}
        {drive.kind === 'roller'
          ? value('Roller', drive.rollerMm, mm, (rollerMm) => ({ drive: { ...drive, rollerMm } }))
          : value('Gear', drive.gear, numberOf('', 3), (gear) => ({ drive: { ...drive, gear } }))}
        <TextField
          select
          size="small"
          label="Turns"
          value={device.direction}
          onChange={({ target }) => onChange({ ...device, direction: Number(target.value) === 1 ? 1 : -1 })}
        >
          <MenuItem value={1}>as Y counts</MenuItem>
          <MenuItem value={-1}>the other way</MenuItem>
        </TextField>
        {value('Holds from Ø', device.smallestMm, mm, (smallestMm) => ({ smallestMm }))}
        {value('up to Ø', device.largestMm, mm, (largestMm) => ({ largestMm }))}
        {value('as long as', device.longestMm, mm, (longestMm) => ({ longestMm }))}
        {value('Surface speed', device.speedMmS, numberOf('mm/s', 1), (speedMmS) => ({ speedMmS }))}
        {value('Surface acceleration', device.accelerationMmS2, numberOf('mm/s²', 1), (accelerationMmS2) => ({
          accelerationMmS2,
        }))}
      </Fields>
      <Row top="tight">
        <Quiet>
          {drive.kind === 'roller'
            ? `${stepsPerMm(drive, 1).toFixed(3)} steps/mm, whatever lies on it`
            : `${stepsPerMm(drive, 80).toFixed(3)} steps/mm for Ø 80 mm`}
        </Quiet>
        <Spread />
        <Button onClick={() => setTesting(true)} data-testid={`test-${drive.kind}`}>
          Test one turn…
        </Button>
      </Row>
      {testing && (
        <TurnTest
          machine={machine}
          desk={desk}
          device={device}
          onClose={() => setTesting(false)}
          onTake={(next) => {
            onChange({ ...device, drive: next })
            setTesting(false)
          }}
        />
      )}
    </section>
  )
}
