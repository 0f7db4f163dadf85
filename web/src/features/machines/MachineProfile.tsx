import { Box, Button, Typography } from '@mui/material'
import type { DeskLive } from '@neotaxis/contract'
import { type Gantry, LENS_AXIS, type Machine, type Mirrors } from '@neotaxis/core'
import { type ReactNode, useState } from 'react'
import { FormProvider, useController } from 'react-hook-form'
import { machineOrders } from '../../api/orders.ts'
import { Card } from '../../parts/Card.tsx'
import { Column } from '../../parts/Column.tsx'
import { Fields } from '../../parts/Fields.tsx'
import { Row, Spread } from '../../parts/Row.tsx'
import { Quiet } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { lengthIn, numberOf, orAbsent, PERCENT, scaled, WORDS } from '../field/measures.ts'
import { refusal } from '../field/refusal.ts'
import { TypedField } from '../field/TypedField.tsx'
import { isLinked } from '../live/desk-words.ts'
import { FirstConnection } from '../run/FirstConnection.tsx'
import { useDoing } from '../run/use-doing.ts'
import { CameraCard } from './CameraCard.tsx'
import { CloseCamera } from './CloseCamera.tsx'
import { LensFields } from './LensFields.tsx'
import { MotionFields } from './MotionFields.tsx'
import { POWER_CURVE } from './power-curve.ts'
import { KeepProfile, ProfileChoice, ProfileField, useKeepProfile, useProfileForm } from './profile-form.tsx'
import { RotaryCards } from './RotaryCards.tsx'
import { ScanLens } from './ScanLens.tsx'

interface Props {
  readonly machine: Machine
  readonly desk: DeskLive | undefined
  readonly onDuplicate: () => void
  readonly onExport: () => void
  readonly onRemove: () => void
}

const MIRRORS: Mirrors = {
  kind: 'mirrors',
  jumpDelayS: { least: 0.0001, most: 0.0004, fullMm: 10 },
  markDelayS: 0.0002,
  turnDelayS: 0.0001,
}
const GANTRY: Gantry = { kind: 'gantry', junctionDeviationMm: 0.01 }
const KINDS: readonly (readonly [Machine['head'], string])[] = [
  [GANTRY, 'moving head'],
  [MIRRORS, 'scan head'],
]
const ZEROS = [
  ['front-left', 'front left'],
  ['rear-left', 'rear left'],
] as const
const AIR = [
  [true, 'yes'],
  [false, 'no'],
] as const

/** All that is known of one machine. Every change is saved as it is made. */
export function MachineProfile({ machine, desk, onDuplicate, onExport, onRemove }: Props) {
  const [checking, setChecking] = useState(false)
  const [surely, setSurely] = useState(false)
  const { form, keep } = useProfileForm(machine)
  const { lengthUnit } = useSelector((state) => state.view)
  const mm = lengthIn(lengthUnit)
  return (
    <FormProvider {...form}>
      <KeepProfile value={keep}>
        <Column gap="wide" data-testid="profile">
          <Row wraps>
            <ProfileField name="name" label="Name" as={WORDS} wide />
            <Spread />
            <Button onClick={onDuplicate} data-testid="duplicate">
              Duplicate
            </Button>
            <Button onClick={onExport}>Export</Button>
            <Button color="error" onClick={() => (surely ? onRemove() : setSurely(true))}>
              {surely ? 'Really take it away' : 'Take away'}
            </Button>
          </Row>
          <Group title="Connection">
            <ProfileField
              name="address"
              label="Address"
              as={WORDS}
              wide
              hint={
                desk?.simulated
                  ? 'empty: the simulated machine beside the server'
                  : 'tcp://HOST:PORT; empty: programs are carried to it'
              }
            />
            <Link machine={machine} desk={desk} onCheck={() => setChecking(true)} />
          </Group>
          <Group title="Kind and bed">
            <ProfileChoice
              name="head"
              label="Kind"
              ways={KINDS}
              is={(head, way) => (head as Machine['head']).kind === way.kind}
            />
            <ProfileChoice name="zero" label="Zero lies" ways={ZEROS} />
            <ProfileField name="axes.x.travelMm" label="Bed, left to right" as={mm} />
            <ProfileField name="axes.y.travelMm" label="Bed, front to rear" as={mm} />
            <LensTravel />
            <ProfileChoice name="hasAir" label="Air assist" ways={AIR} />
          </Group>
          <Group title="Motion">
            <MotionFields />
          </Group>
          <Group title="Beam">
            <ProfileField name="watts" label="Full power" as={numberOf('W', 2)} />
            <ProfileField name="safePower" label="Safe up to" as={orAbsent(PERCENT)} />
            <ProfileField name="fullPowerS" label="S of full power" as={numberOf()} />
            <ProfileField name="riseTimeS" label="Rise time" as={scaled('ms', 0.001)} />
            <ProfileField
              name="powerCurve"
              label="Power curve"
              as={POWER_CURVE}
              wide
              hint="measured, as %: W, for example 10: 0, 50: 26, 100: 57; empty: straight"
            />
          </Group>
          <Group title="Lenses">
            <LensFields />
          </Group>
          {machine.head.kind === 'gantry' && <RotaryCards machine={machine} desk={desk} />}
          <CameraCard machine={machine} />
          {machine.head.kind === 'gantry' ? <CloseCamera machine={machine} /> : <ScanLens machine={machine} />}
          {desk && <FirstConnection machine={machine} desk={desk} open={checking} onClose={() => setChecking(false)} />}
        </Column>
      </KeepProfile>
    </FormProvider>
  )
}

interface LinkProps {
  readonly machine: Machine
  readonly desk: DeskLive | undefined
  readonly onCheck: () => void
}

/** Connects and disconnects; the first connection goes through its list. */
function Link({ machine, desk, onCheck }: LinkProps) {
  const doing = useDoing()
  return (
    <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', gridColumn: 'span 2' }}>
      {desk && isLinked(desk) ? (
        <Button variant="outlined" onClick={() => void doing(() => machineOrders.disconnect(machine.id))}>
          Disconnect
        </Button>
      ) : (
        <Button
          variant="contained"
          disabled={!desk || desk.address === ''}
          onClick={() => void doing(() => machineOrders.connect(machine.id))}
        >
          Connect
        </Button>
      )}
      <Button variant={desk?.checked ? 'text' : 'contained'} disabled={!desk || !isLinked(desk)} onClick={onCheck}>
        {desk?.checked ? 'Check it again' : 'First connection'}
      </Button>
      <Quiet>{desk?.trouble || (desk?.checked ? 'settings compared, beam seen to go off' : '')}</Quiet>
    </Box>
  )
}

/** How far the lens can be moved; 0 where it cannot. */
function LensTravel() {
  const { field, fieldState } = useController<Machine, 'axes'>({ name: 'axes' })
  const keep = useKeepProfile()
  const mm = lengthIn(useSelector((state) => state.view.lengthUnit))
  const { z, ...flat } = field.value
  return (
    <TypedField
      label="Lens travel"
      value={z?.travelMm ?? 0}
      as={mm}
      refused={refusal((fieldState.error as { z?: { travelMm?: never } } | undefined)?.z?.travelMm, mm)}
      onTake={(travelMm) => {
        field.onChange(travelMm === 0 ? flat : { ...flat, z: { ...(z ?? LENS_AXIS), travelMm } })
        keep()
      }}
    />
  )
}

function Group({ title, children }: { readonly title: string; readonly children: ReactNode }) {
  return (
    <Card gap="room" as="section" aria-label={title}>
      <Typography variant="h3">{title}</Typography>
      <Fields>{children}</Fields>
    </Card>
  )
}
