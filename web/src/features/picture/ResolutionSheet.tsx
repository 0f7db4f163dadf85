import { Box, Button, ButtonBase, Popover, Switch, Tooltip, Typography } from '@mui/material'
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
            borderRadius: 5,
            bgcolor: 'background.paper',
            px: 1.6,
            minHeight: 34,
            fontSize: 14,
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
        <Box sx={{ p: 2.2, width: 340 }}>
          <Typography variant="h2" sx={{ mb: 1 }}>
            Resolution
          </Typography>
          <Box sx={{ fontSize: 13.5, mb: 0.6, fontWeight: verdict === 'suits' ? 400 : 700 }}>{line}</Box>
          <Box sx={{ fontSize: 13.5, mb: 1, color: 'text.secondary' }}>{spotLine}</Box>
          {blurLine && <Box sx={{ fontSize: 13.5, mb: 1, fontWeight: 700 }}>{blurLine}</Box>}
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
          <Box sx={{ display: 'flex', alignItems: 'center' }}>
            <Box component="label" htmlFor="keep-dose" sx={{ flex: 1, fontSize: 13.5 }}>
              Keep the dose: power follows
            </Box>
            <Switch id="keep-dose" size="small" checked={keepDose} onChange={(_, on) => setKeepDose(on)} />
          </Box>
          {Math.abs(operation.intervalMm - matched) >= 1e-4 && matched >= RANGES.intervalMm.min && matched <= 0.5 && (
            <Button size="small" onClick={() => interval(matched)}>
              As many dots as pixels: {matched} mm
            </Button>
          )}
          <Box sx={{ mt: 1, fontSize: 13, color: 'text.secondary' }}>Lens</Box>
          <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.6, mt: 0.4 }}>
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
          </Box>
          {lens && (
            <Box sx={{ mt: 0.8, fontSize: 13.5 }}>
              {lens.lens.name} suits better. {lens.why}
            </Box>
          )}
        </Box>
      </Popover>
    </>
  )
})
