import { Box, Button, MenuItem, TextField, Typography } from '@mui/material'
import type { DeskLive } from '@neotaxis/contract'
import { type Axis, type Gantry, LENS_AXIS, type Lens, type Machine, type Mirrors, NETWORK_BYTES_S } from '@neotaxis/core'
import { type ReactNode, useState } from 'react'
import { machineOrders } from '../../api/orders.ts'
import { isLinked } from '../live/desk-words.ts'
import { FirstConnection } from '../run/FirstConnection.tsx'
import { useDoing } from '../run/use-doing.ts'
import { ValueField } from './ValueField.tsx'

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

/** All that is known of one machine. Every change is saved as it is made. */
export function MachineProfile({ machine, desk, onDuplicate, onExport, onRemove }: Props) {
  const doing = useDoing()
  const [checking, setChecking] = useState(false)
  const [surely, setSurely] = useState(false)
  const save = (change: Partial<Machine>): void =>
    void doing(async () => {
      await machineOrders.save({ ...machine, ...change }, machine.version)
    })
  const number = (label: string, unit: string, value: number, take: (value: number) => Partial<Machine>) => (
    <ValueField label={label} unit={unit} value={value} onValue={(next) => save(take(next))} />
  )
  const { axes, head } = machine
  const mirrors = head.kind === 'mirrors' ? head : undefined
  const axis = (letter: 'x' | 'y', change: Partial<Axis>): Partial<Machine> => ({
    axes: { ...axes, [letter]: { ...axes[letter], ...change } },
  })
  const lens = (id: string, change: Partial<Lens>): void =>
    save({ lenses: machine.lenses.map((one) => (one.id === id ? { ...one, ...change } : one)) })
  const addLens = (): void => {
    const id = `l${Math.max(0, ...machine.lenses.map((one) => Number(/\d+$/.exec(one.id)?.[0] ?? 0))) + 1}`
    save({ lenses: [...machine.lenses, { ...machine.lenses[0], id, name: 'Another lens' }] })
  }
  return (
    <Box sx={{ display: 'grid', gap: 2 }} data-testid="profile">
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
        <ValueField label="Name" value={machine.name} onText={(name) => save({ name })} wide />
        <Box sx={{ flex: 1 }} />
        <Button onClick={onDuplicate} data-testid="duplicate">
          Duplicate
        </Button>
        <Button onClick={onExport}>Export</Button>
        <Button color="error" onClick={() => (surely ? onRemove() : setSurely(true))}>
          {surely ? 'Really take it away' : 'Take away'}
        </Button>
      </Box>
      <Group title="Connection">
        <ValueField
          label="Address"
          value={machine.address}
          onText={(address) => save({ address })}
          wide
          hint={
            desk?.simulated
              ? 'empty: the simulated machine beside the server'
              : 'tcp://HOST:PORT; empty: programs are carried to it'
          }
        />
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
          <Button
            variant={desk?.checked ? 'text' : 'contained'}
            disabled={!desk || !isLinked(desk)}
            onClick={() => setChecking(true)}
            sx={{ whiteSpace: 'nowrap' }}
          >
            {desk?.checked ? 'Check it again' : 'First connection'}
          </Button>
          <Box sx={{ fontSize: 13, color: 'text.secondary' }}>
            {desk?.trouble || (desk?.checked ? 'settings compared, beam seen to go off' : '')}
          </Box>
        </Box>
      </Group>
      <Group title="Kind and bed">
        <TextField
          select
          size="small"
          label="Kind"
          value={head.kind}
          onChange={(event) => save({ head: event.target.value === 'mirrors' ? MIRRORS : GANTRY })}
        >
          <MenuItem value="gantry">moving head</MenuItem>
          <MenuItem value="mirrors">scan head</MenuItem>
        </TextField>
        <TextField
          select
          size="small"
          label="Zero lies"
          value={machine.zero}
          onChange={(event) => save({ zero: event.target.value as Machine['zero'] })}
        >
          <MenuItem value="front-left">front left</MenuItem>
          <MenuItem value="rear-left">rear left</MenuItem>
        </TextField>
        {number('Bed, left to right', 'mm', axes.x.travelMm, (travelMm) => axis('x', { travelMm }))}
        {number('Bed, front to rear', 'mm', axes.y.travelMm, (travelMm) => axis('y', { travelMm }))}
        {number('Lens travel', 'mm', axes.z?.travelMm ?? 0, (travelMm) => {
          const { z, ...flat } = axes
          return { axes: travelMm > 0 ? { ...flat, z: { ...(z ?? LENS_AXIS), travelMm } } : flat }
        })}
        <TextField
          select
          size="small"
          label="Air assist"
          value={machine.hasAir ? 'yes' : 'no'}
          onChange={(event) => save({ hasAir: event.target.value === 'yes' })}
        >
          <MenuItem value="yes">yes</MenuItem>
          <MenuItem value="no">no</MenuItem>
        </TextField>
      </Group>
      <Group title="Motion">
        {number('Top speed x', 'mm/s', axes.x.speedMmS, (speedMmS) => axis('x', { speedMmS }))}
        {number('Top speed y', 'mm/s', axes.y.speedMmS, (speedMmS) => axis('y', { speedMmS }))}
        {!mirrors &&
          number('Acceleration x', 'mm/s²', axes.x.accelerationMmS2, (accelerationMmS2) => axis('x', { accelerationMmS2 }))}
        {!mirrors &&
          number('Acceleration y', 'mm/s²', axes.y.accelerationMmS2, (accelerationMmS2) => axis('y', { accelerationMmS2 }))}
        {head.kind === 'gantry' &&
          number('Junction deviation', 'mm', head.junctionDeviationMm, (junctionDeviationMm) => ({
            head: { ...head, junctionDeviationMm },
          }))}
        {number('Line takes', 'kB/s', (machine.lineBytesS ?? NETWORK_BYTES_S) / 1000, (kB) => ({ lineBytesS: kB * 1000 }))}
        {number('Moves looked ahead', '', machine.plannerDepth, (plannerDepth) => ({ plannerDepth }))}
        {mirrors &&
          number('Jump delay, least', 'ms', mirrors.jumpDelayS.least * 1000, (ms) => ({
            head: { ...mirrors, jumpDelayS: { ...mirrors.jumpDelayS, least: ms / 1000 } },
          }))}
        {mirrors &&
          number('Jump delay, most', 'ms', mirrors.jumpDelayS.most * 1000, (ms) => ({
            head: { ...mirrors, jumpDelayS: { ...mirrors.jumpDelayS, most: ms / 1000 } },
          }))}
        {mirrors &&
          number('… from a jump of', 'mm', mirrors.jumpDelayS.fullMm, (fullMm) => ({
            head: { ...mirrors, jumpDelayS: { ...mirrors.jumpDelayS, fullMm } },
          }))}
        {mirrors &&
          number('Mark delay', 'ms', mirrors.markDelayS * 1000, (ms) => ({ head: { ...mirrors, markDelayS: ms / 1000 } }))}
        {mirrors &&
          number('Turn delay', 'ms', mirrors.turnDelayS * 1000, (ms) => ({ head: { ...mirrors, turnDelayS: ms / 1000 } }))}
      </Group>
      <Group title="Beam">
        {number('Full power', 'W', machine.watts, (watts) => ({ watts }))}
        {number('S of full power', '', machine.fullPowerS, (fullPowerS) => ({ fullPowerS }))}
        {number('Rise time', 'ms', machine.riseTimeS * 1000, (ms) => ({ riseTimeS: ms / 1000 }))}
        <ValueField
          label="Power curve"
          wide
          value={machine.powerCurve.map(({ power, watts }) => `${Number((power * 100).toFixed(2))}: ${watts}`).join(', ')}
          hint="measured, as %: W, for example 10: 0, 50: 26, 100: 57; empty: straight"
          onText={(text) => {
            const points = text
              .split(',')
              .filter((part) => part.trim() !== '')
              .map((part) => part.split(':').map((n) => Number(n.replace('%', '').trim())))
            if (!points.every(([p, w]) => p > 0 && p <= 100 && w >= 0)) throw new Error('Write it as 10: 0, 50: 26, 100: 57.')
            save({ powerCurve: points.map(([p, w]) => ({ power: p / 100, watts: w })).sort((l, r) => l.power - r.power) })
          }}
        />
      </Group>
      <Group title="Lenses">
        {machine.lenses.map((one) => (
          <Box
            key={one.id}
            sx={{
              gridColumn: '1 / -1',
              display: 'grid',
              gridTemplateColumns: '1.6fr 1fr 1fr 1fr auto',
              gap: 1.2,
              alignItems: 'center',
            }}
          >
            <ValueField label="Lens" value={one.name} onText={(name) => lens(one.id, { name })} />
            <ValueField
              label="Focal length"
              unit="mm"
              value={one.focalLengthMm}
              onValue={(focalLengthMm) => lens(one.id, { focalLengthMm })}
            />
            <ValueField label="Spot" unit="mm" value={one.spotMm} onValue={(spotMm) => lens(one.id, { spotMm })} />
            <ValueField
              label="Depth of focus ±"
              unit="mm"
              value={one.depthOfFocusMm}
              onValue={(depthOfFocusMm) => lens(one.id, { depthOfFocusMm })}
            />
            <Button
              variant={one.id === machine.lens ? 'contained' : 'outlined'}
              aria-pressed={one.id === machine.lens}
              onClick={() => save({ lens: one.id })}
              sx={{ minWidth: 92 }}
            >
              {one.id === machine.lens ? 'fitted' : 'fit'}
            </Button>
          </Box>
        ))}
        <Button onClick={addLens} sx={{ justifySelf: 'start' }}>
          Add a lens
        </Button>
      </Group>
      {desk && <FirstConnection machine={machine} desk={desk} open={checking} onClose={() => setChecking(false)} />}
    </Box>
  )
}

function Group({ title, children }: { readonly title: string; readonly children: ReactNode }) {
  return (
    <Box
      component="section"
      aria-label={title}
      sx={{ bgcolor: 'background.paper', border: 1, borderColor: 'divider', borderRadius: 2, p: 1.8 }}
    >
      <Typography variant="h3" sx={{ mb: 1.4 }}>
        {title}
      </Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(4, minmax(0, 1fr))', gap: 1.4, alignItems: 'center' }}>
        {children}
      </Box>
    </Box>
  )
}
