import { Box, Button, ButtonBase, Popover, Tooltip } from '@mui/material'
import {
  dpiFromInterval,
  fittedLens,
  intervalFromDpi,
  type JobDocument,
  RANGES,
  type RowSettings,
  resolutionAdvice,
  withInterval,
  withLens,
} from '@neotaxis/core'
import { memo, useRef, useState } from 'react'
import { Row } from '../../parts/Row.tsx'
import { Sheet } from '../../parts/Sheet.tsx'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { Title } from '../../parts/Title.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { EDGE, TYPE, WEIGHT } from '../../theme/tokens.ts'
import { CountField, LengthField } from '../field/quantities.tsx'
import { useEdit } from '../use-edit.ts'

interface Props {
  readonly job: JobDocument
  readonly operationId: string
  readonly operation: RowSettings
}

/** Pixels, dots and spot in one line; DPI, interval and lens move together. */
export const ResolutionSheet = memo(function ResolutionSheet({ job, operationId, operation }: Props) {
  const edit = useEdit()
  const chip = useRef<HTMLButtonElement>(null)
  const [open, setOpen] = useState(false)
  const [keepDose, setKeepDose] = useState(true)
  const advice = resolutionAdvice(job, operation)
  const { thereDpi, wantedDpi, verdict, line, spotLine, blurLine, lens } = advice
  const dpi = dpiFromInterval(operation.intervalMm)
  const interval = (intervalMm: number): void =>
    edit(`interval ${Number(intervalMm.toFixed(4))} mm`, (base) => withInterval(base, operationId, intervalMm, keepDose))
  const fit = (id: string): void => edit('another lens', (base) => withLens(base, id))
  const matched = Math.round((25.4 / thereDpi) * 1e4) / 1e4
  return (
    <>
      <Tooltip title="Pixels, dots and spot: change them together">
        <ButtonBase
          ref={chip}
          onClick={() => setOpen(true)}
          data-testid="resolution"
          sx={{
            border: 1,
            borderColor: verdict === 'missing' ? 'shop.ask' : 'divider',
            borderRadius: `${EDGE.pill}px`,
            bgcolor: 'background.paper',
            px: 1.6,
            minHeight: 34,
            fontSize: TYPE.body,
            gap: 0.8,
            whiteSpace: 'nowrap',
          }}
        >
          <b>{Math.round(wantedDpi)} dpi</b> burned · <b>{Math.round(thereDpi)} dpi</b> there
        </ButtonBase>
      </Tooltip>
      <Popover
        open={open}
        anchorEl={chip.current}
        onClose={() => setOpen(false)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
        transformOrigin={{ vertical: 'top', horizontal: 'right' }}
      >
        <Sheet width={340}>
          <Title variant="h2" bottom="snug">
            Resolution
          </Title>
          <Box sx={{ fontSize: TYPE.plain, mb: 0.6, fontWeight: verdict === 'suits' ? WEIGHT.plain : WEIGHT.strong }}>{line}</Box>
          <Words size="plain" tone="quiet" bottom="snug">
            {spotLine}
          </Words>
          {blurLine && (
            <Words size="plain" weight="strong" bottom="snug">
              {blurLine}
            </Words>
          )}
          <LengthField
            label="Interval"
            value={operation.intervalMm}
            range={RANGES.intervalMm}
            digits={4}
            step={0.005}
            hint="Distance of lines, and of dots in a line."
            onCommit={interval}
          />
          <CountField
            label="Dots an inch"
            unit="dpi"
            value={dpi}
            range={{ min: 5, max: 1270 }}
            onCommit={(v) => interval(Math.round(intervalFromDpi(v) * 1e5) / 1e5)}
          />
          <SwitchRow label="Keep the dose: power follows" on={keepDose} onSwitch={(on) => setKeepDose(on)} />
          {Math.abs(operation.intervalMm - matched) >= 1e-4 && matched >= RANGES.intervalMm.min && matched <= 0.5 && (
            <Button size="small" onClick={() => interval(matched)}>
              As many dots as pixels: {matched} mm
            </Button>
          )}
          <Quiet top="snug">Lens</Quiet>
          <Row align="stretch" gap="tight" wraps top="tight">
            {job.machine.lenses.map((each) => (
              <Tooltip key={each.id} title={`Spot ${each.spotMm} mm, sharp over ${each.depthOfFocusMm} mm`}>
                <Button
                  size="small"
                  variant={each.id === fittedLens(job.machine).id ? 'contained' : 'outlined'}
                  color="secondary"
                  onClick={() => fit(each.id)}
                >
                  {each.name}
                </Button>
              </Tooltip>
            ))}
          </Row>
          {lens && (
            <Words size="plain" top="snug">
              {lens.lens.name} suits better. {lens.why}
            </Words>
          )}
        </Sheet>
      </Popover>
    </>
  )
})
