import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  Slider,
  ToggleButton,
  ToggleButtonGroup,
  Tooltip,
  Typography,
} from '@mui/material'
import { useEffect, useState } from 'react'
import { onCommand, runCommand } from '../features/bar/commands.ts'
import { Words } from '../parts/words.tsx'
import { useDispatch, useSelector } from '../store/hooks.ts'
import { screenMeasured, stageShows, turningShown } from '../store/view-slice.ts'
import { EDGE } from '../theme/tokens.ts'
import type { StageHandle } from './use-stage.ts'

interface Props {
  readonly stage: StageHandle
  /** Shows what is worked on as large as fits. */
  readonly onCloseUp: () => void
  /** It turns: it can be seen so. */
  readonly isRound?: boolean
  /** It shows one thing only. */
  readonly plain?: boolean
}

/** What the stage shows, and how large. */
export function StageTools({ stage, onCloseUp, isRound = false, plain = false }: Props) {
  const dispatch = useDispatch()
  const { whole: onWhole, zoom: onZoom, view } = stage
  const scale = view?.scale
  const screenPxPerMm = useSelector((state) => state.view.screenPxPerMm)
  const [measuring, setMeasuring] = useState(false)
  const real = (): void => {
    if (!screenPxPerMm) setMeasuring(true)
    else if (scale !== undefined) onZoom(screenPxPerMm / scale)
  }
  useEffect(() =>
    onCommand({
      'view-whole': onWhole,
      'view-real': real,
      'view-close': onCloseUp,
      ...(isRound && { 'view-turning': () => void dispatch(turningShown(true)) }),
      'view-in': () => onZoom(1.5),
      'view-out': () => onZoom(1 / 1.5),
      'measure-screen': () => setMeasuring(true),
    }),
  )
  const text = {
    size: 'small' as const,
    sx: {
      minWidth: 0,
      px: 1.2,
      minHeight: 32,
      whiteSpace: 'nowrap',
      color: 'text.primary',
      bgcolor: 'background.paper',
      border: 1,
      borderColor: 'divider',
    },
  }
  return (
    <Box
      sx={{ position: 'absolute', left: 12, top: 10, maxWidth: 'calc(100% - 76px)', display: 'flex', flexWrap: 'wrap', gap: 1 }}
    >
      {!plain && <WhatIsShown />}
      {isRound && (
        <Tooltip title="Around the object, in three dimensions  (Shift W)">
          <Button {...text} onClick={() => dispatch(turningShown(true))} data-testid="as-it-turns">
            as it turns
          </Button>
        </Tooltip>
      )}
      <Tooltip title="The whole workpiece  (W)">
        <Button {...text} onClick={onWhole}>
          whole
        </Button>
      </Tooltip>
      <Tooltip title="What is selected, close up  (C)">
        <Button {...text} onClick={onCloseUp}>
          close up
        </Button>
      </Tooltip>
      <Tooltip
        title={
          screenPxPerMm ? 'As large as in reality  (R)' : 'As large as in reality: measure the screen once with a ruler  (R)'
        }
      >
        <Button {...text} onClick={real}>
          real size
        </Button>
      </Tooltip>
      {!plain && (
        <Tooltip title="A photo of the bed under the job  (V)">
          <Button {...text} onClick={() => runCommand('bed-photo')} data-testid="bed-photo">
            camera
          </Button>
        </Tooltip>
      )}
      {scale !== undefined && screenPxPerMm !== undefined && (
        <Typography variant="body2" sx={{ color: 'text.secondary' }}>
          {(scale / screenPxPerMm).toFixed(scale / screenPxPerMm < 1 ? 2 : 1)} : 1
        </Typography>
      )}
      <MeasureScreen
        open={measuring}
        onClose={() => setMeasuring(false)}
        onDone={(px) => scale !== undefined && onZoom(px / scale)}
      />
    </Box>
  )
}

/** The workpiece after the burn, or the artwork itself. */
function WhatIsShown() {
  const dispatch = useDispatch()
  const shows = useSelector((state) => state.view.shows)
  useEffect(() => onCommand({ 'view-artwork': () => dispatch(stageShows(shows === 'artwork' ? 'forecast' : 'artwork')) }))
  return (
    <ToggleButtonGroup
      exclusive
      size="small"
      value={shows}
      onChange={(_, value) => value && dispatch(stageShows(value))}
      aria-label="What the stage shows"
      sx={{ bgcolor: 'background.paper' }}
    >
      <Tooltip title="The workpiece after the burn  (A)">
        <ToggleButton value="forecast">after the burn</ToggleButton>
      </Tooltip>
      <Tooltip title="The pictures as they came: white is white, rings are transparent  (A)">
        <ToggleButton value="artwork">artwork</ToggleButton>
      </Tooltip>
    </ToggleButtonGroup>
  )
}

/** Once: a bar is made as long as 100 mm on a real ruler held to the screen. */
function MeasureScreen({
  open,
  onClose,
  onDone,
}: {
  readonly open: boolean
  readonly onClose: () => void
  readonly onDone: (screenPxPerMm: number) => void
}) {
  const dispatch = useDispatch()
  const known = useSelector((state) => state.view.screenPxPerMm)
  const [length, setLength] = useState(Math.round((known ?? 3.78) * 100))
  return (
    <Dialog open={open} onClose={onClose} maxWidth="md">
      <DialogTitle>Hold a ruler to the screen</DialogTitle>
      <DialogContent>
        <Words bottom="wide">Make the bar exactly 100 mm long. This screen remembers it.</Words>
        <Box sx={{ height: 34, width: length, bgcolor: 'primary.main', borderRadius: `${EDGE.sharp}px`, mb: 2 }} />
        <Slider
          value={length}
          min={200}
          max={820}
          onChange={(_, value) => setLength(value as number)}
          aria-label="Length of the bar"
          sx={{ width: 640 }}
        />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Leave it</Button>
        <Button
          variant="contained"
          onClick={() => {
            dispatch(screenMeasured(length / 100))
            onClose()
            onDone(length / 100)
          }}
        >
          It is 100 mm
        </Button>
      </DialogActions>
    </Dialog>
  )
}
