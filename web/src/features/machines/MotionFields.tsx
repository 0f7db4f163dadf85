import { type Machine, NETWORK_BYTES_S } from '@neotaxis/core'
import { useWatch } from 'react-hook-form'
import { useSelector } from '../../store/hooks.ts'
import { lengthIn, numberOf, orAbsent, scaled, speedIn, type Written } from '../field/measures.ts'
import { ProfileField } from './profile-form.tsx'

const MS = scaled('ms', 0.001)
const ACCELERATION = numberOf('mm/s²', 1)
const KB_S = scaled('kB/s', 1000)
/** A line of which nothing was said is a network. */
const LINE: Written<number | undefined> = {
  ...KB_S,
  show: (bytes) => KB_S.show(bytes ?? NETWORK_BYTES_S),
}

/** How the machine moves: what a gantry has, and what mirrors have. */
export function MotionFields() {
  const kind = useWatch<Machine, 'head.kind'>({ name: 'head.kind' })
  const { lengthUnit, speedUnit } = useSelector((state) => state.view)
  const speed = speedIn(speedUnit)
  const fine = lengthIn(lengthUnit, 3)
  return (
    <>
      <ProfileField name="axes.x.speedMmS" label="Top speed x" as={speed} />
      <ProfileField name="axes.y.speedMmS" label="Top speed y" as={speed} />
      {kind === 'gantry' && (
        <>
          <ProfileField name="axes.x.accelerationMmS2" label="Acceleration x" as={ACCELERATION} />
          <ProfileField name="axes.y.accelerationMmS2" label="Acceleration y" as={ACCELERATION} />
          <ProfileField name="head.junctionDeviationMm" label="Junction deviation" as={fine} />
        </>
      )}
      <ProfileField name="lineBytesS" label="Line takes" as={LINE} />
      <ProfileField name="linesS" label="Lines read" as={orAbsent(numberOf('1/s'))} />
      <ProfileField name="plannerDepth" label="Moves looked ahead" as={numberOf()} />
      {kind === 'mirrors' && (
        <>
          <ProfileField name="head.jumpDelayS.least" label="Jump delay, least" as={MS} />
          <ProfileField name="head.jumpDelayS.most" label="Jump delay, most" as={MS} />
          <ProfileField name="head.jumpDelayS.fullMm" label="… from a jump of" as={lengthIn(lengthUnit, 1)} />
          <ProfileField name="head.markDelayS" label="Mark delay" as={MS} />
          <ProfileField name="head.turnDelayS" label="Turn delay" as={MS} />
        </>
      )}
    </>
  )
}
