import { Box, MenuItem, Switch, TextField } from '@mui/material'
import {
  type Dots,
  type JobDocument,
  KERNELS,
  materialOf,
  picturedRoot,
  pictureNode,
  placeOf,
  preparedSize,
  type RowSettings,
  topLayer,
  withDots,
  withPlace,
} from '@neotaxis/core'
import { Row } from '../../parts/Row.tsx'
import { Quiet } from '../../parts/words.tsx'
import { TYPE } from '../../theme/tokens.ts'
import { ValueSlider } from '../details/ValueSlider.tsx'
import { useEdit } from '../use-edit.ts'
import { KERNEL_NAMES } from './step-words.ts'

/** The job with a picture burned as its dots are: at the size at which one pixel is one dot. */
function asPrepared(job: JobDocument, node: string, operation: RowSettings, on: boolean): JobDocument {
  const changed = withDots(job, node, { asPrepared: on })
  if (!on) return changed
  const { id } = picturedRoot(job, node)
  const place = placeOf(job, id)
  const size = preparedSize(job, node, operation.intervalMm)
  const micro = (v: number): number => Math.round(v * 1000) / 1000
  const xMm = micro(place.xMm + (place.widthMm - size.widthMm) / 2)
  const yMm = micro(place.yMm + (place.heightMm - size.heightMm) / 2)
  return withPlace(changed, id, { ...size, xMm, yMm })
}

/** How tones become dots. */
export function DotsControls({
  job,
  node,
  operation,
}: {
  readonly job: JobDocument
  readonly node: string
  readonly operation: RowSettings | undefined
}) {
  const edit = useEdit()
  const { dots } = pictureNode(job, node)
  const gainMeasured = topLayer(materialOf(job)).curves?.some(({ quantity }) => quantity === 'gain') ?? false
  const set = (name: string, change: Partial<Dots>): void => edit(name, (base) => withDots(base, node, change))
  const toggle = (id: string, label: string, checked: boolean, onChange: (on: boolean) => void, disabled = false) => (
    <Row gap="none" line>
      <Box component="label" htmlFor={id} sx={{ flex: 1, fontSize: TYPE.plain, color: disabled ? 'text.secondary' : undefined }}>
        {label}
      </Box>
      <Switch id={id} size="small" checked={checked} disabled={disabled} onChange={(_, on) => onChange(on)} />
    </Row>
  )
  const diffuses = !['threshold', 'bayer-4', 'bayer-8', 'clustered', 'blue-noise', 'none'].includes(dots.kernel)
  return (
    <>
      <TextField
        select
        size="small"
        fullWidth
        label="Dots"
        value={dots.kernel}
        disabled={dots.asPrepared}
        onChange={(event) => set('other dots', { kernel: event.target.value as Dots['kernel'] })}
        data-testid="kernel"
        margin="dense"
      >
        {KERNELS.map((kernel) => (
          <MenuItem key={kernel} value={kernel}>
            {KERNEL_NAMES[kernel]}
          </MenuItem>
        ))}
      </TextField>
      {diffuses && toggle('serpentine', 'Rows there and back', dots.serpentine, (on) => set('rows of dots', { serpentine: on }))}
      {dots.kernel === 'clustered' && (
        <>
          <Quiet top="tight">
            Ruling <b>{dots.linesPerInch} lines/in</b>
          </Quiet>
          <ValueSlider
            label="Ruling"
            value={dots.linesPerInch}
            min={15}
            max={120}
            step={1}
            text={(v) => `${v} lines/in`}
            change={(linesPerInch) => (base) => withDots(base, node, { linesPerInch })}
            name={(v) => `ruling ${v}`}
          />
          <Quiet>
            Angle <b>{dots.angleDeg}°</b>
          </Quiet>
          <ValueSlider
            label="Angle of the screen"
            value={dots.angleDeg}
            min={0}
            max={90}
            step={1}
            text={(v) => `${v}°`}
            change={(angleDeg) => (base) => withDots(base, node, { angleDeg })}
            name={(v) => `screen at ${v}°`}
          />
        </>
      )}
      {dots.kernel !== 'none' &&
        toggle(
          'dot-gain',
          gainMeasured ? 'Make up for dot gain, as measured' : 'Dot gain: not measured on this material',
          dots.gain && gainMeasured,
          (on) => set(on ? 'make up for dot gain' : 'dot gain as it is', { gain: on }),
          !gainMeasured,
        )}
      {toggle('as-prepared', 'As prepared: one pixel, one dot', dots.asPrepared, (on) =>
        edit(on ? 'burn the dots as they are' : 'make dots of tones', (base) =>
          operation ? asPrepared(base, node, operation, on) : withDots(base, node, { asPrepared: on }),
        ),
      )}
      {dots.asPrepared && (
        <Quiet>The steps above are left out, and the size follows from the interval: it is not resampled.</Quiet>
      )}
    </>
  )
}
