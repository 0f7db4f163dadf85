import EditIcon from '@mui/icons-material/EditOutlined'
import { IconButton, Menu, MenuItem, Tooltip } from '@mui/material'
import { type ComponentProps, useRef } from 'react'
import { runCommand } from '../bar/commands.ts'
import { DRAWN_HERE, type DrawnHere } from './use-stage-draw.tsx'

/** What can be drawn on the workpiece itself. */
export function DrawMenu({
  sx,
  open,
  onOpen,
}: Pick<ComponentProps<typeof IconButton>, 'sx'> & { readonly open: boolean; readonly onOpen: (open: boolean) => void }) {
  const button = useRef<HTMLButtonElement>(null)
  return (
    <>
      <Tooltip title="Draw or write on the workpiece itself  (I: a text)">
        <IconButton ref={button} onClick={() => onOpen(true)} aria-label="Draw on the workpiece" data-testid="draw-here" sx={sx}>
          <EditIcon fontSize="small" />
        </IconButton>
      </Tooltip>
      <Menu anchorEl={() => button.current!} open={open} onClose={() => onOpen(false)}>
        {(Object.keys(DRAWN_HERE) as DrawnHere[]).map((kind) => (
          <MenuItem
            key={kind}
            data-testid={`draw-here-${kind}`}
            onClick={() => {
              onOpen(false)
              runCommand(`draw-here-${kind}`)
            }}
          >
            {DRAWN_HERE[kind]}
          </MenuItem>
        ))}
      </Menu>
    </>
  )
}
