import AddIcon from '@mui/icons-material/Add'
import FitScreenIcon from '@mui/icons-material/FitScreenOutlined'
import RemoveIcon from '@mui/icons-material/Remove'
import { IconButton, Link, Menu, MenuItem, Tooltip } from '@mui/material'
import { useState } from 'react'
import { Row } from '../../parts/Row.tsx'
import { Quiet } from '../../parts/words.tsx'
import { runCommand } from '../bar/commands.ts'
import { STOP_WORDS, type StopKind } from './step-words.ts'
import type { Zoom } from './use-zoom.ts'

interface Props {
  readonly zoom: Zoom
  /** Operations that the stage does not show. */
  readonly hidden: number
  /** What the material wants done by hand and is not in the line yet; empty: nothing. */
  readonly wants: string
  /** Whether there is more than one thing to be ordered. */
  readonly several: boolean
}

/** Beside the clock: a step more, a good order, and how closely time is looked at. */
export function LineTools({ zoom, hidden, wants, several }: Props) {
  const [anchor, setAnchor] = useState<HTMLElement>()
  return (
    <Row gap="room">
      {hidden > 0 && (
        <Link component="button" onClick={() => runCommand('show-operations')} data-testid="show-operations">
          {hidden} hidden: show
        </Link>
      )}
      <Link component="button" onClick={(event) => setAnchor(event.currentTarget)} data-testid="add-step">
        Add a step…
      </Link>
      {several && (
        <Tooltip title="Marks before what frees them, inner cuts before outer ones, what is prepared alike together, the least way">
          <Link component="button" onClick={() => runCommand('good-order')} data-testid="good-order">
            Good order
          </Link>
        </Tooltip>
      )}
      <Row gap="none">
        <Tooltip title="Farther: more time at once">
          <span>
            <IconButton size="small" aria-label="More time at once" disabled={!zoom.canGoOut} onClick={() => zoom.by(-1)}>
              <RemoveIcon fontSize="inherit" />
            </IconButton>
          </span>
        </Tooltip>
        <Tooltip title="The whole job">
          <span>
            <IconButton size="small" aria-label="All time at once" disabled={!zoom.canGoOut} onClick={zoom.whole}>
              <FitScreenIcon fontSize="inherit" />
            </IconButton>
          </span>
        </Tooltip>
        <Tooltip title="Closer: less time at once  (Ctrl and the wheel over the line)">
          <IconButton size="small" aria-label="Less time at once" onClick={() => zoom.by(1)} data-testid="time-closer">
            <AddIcon fontSize="inherit" />
          </IconButton>
        </Tooltip>
      </Row>
      <Menu open={anchor !== undefined} anchorEl={anchor} onClose={() => setAnchor(undefined)}>
        {wants !== '' && (
          <MenuItem
            dense
            onClick={() => {
              setAnchor(undefined)
              runCommand('add-material-steps')
            }}
            data-testid="add-material-steps"
            style={{ display: 'block' }}
          >
            What its material wants
            <Quiet>{wants}</Quiet>
          </MenuItem>
        )}
        {(Object.keys(STOP_WORDS) as StopKind[]).map((kind) => (
          <MenuItem
            key={kind}
            dense
            onClick={() => {
              setAnchor(undefined)
              runCommand(`add-${kind}`)
            }}
            data-testid={`add-${kind}`}
            style={{ display: 'block' }}
          >
            {STOP_WORDS[kind].name}
            <Quiet>{STOP_WORDS[kind].hint}</Quiet>
          </MenuItem>
        ))}
      </Menu>
    </Row>
  )
}
