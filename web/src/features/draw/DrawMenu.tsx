import EditIcon from '@mui/icons-material/EditOutlined'
import { IconButton, Menu, MenuItem, Tooltip } from '@mui/material'
import { type ComponentProps, useState } from 'react'
import { runCommand } from '../bar/commands.ts'
import { DRAWN_HERE, type DrawnHere } from './use-stage-draw.tsx'

/** What can be drawn on the workpiece itself. */
export function DrawMenu({ sx }: Pick<ComponentProps<typeof IconButton>, 'sx'>) {
  const [menu, setMenu] = useState<HTMLElement | null>(null)
  return (
    <>
      <Tooltip title="Draw or write on the workpiece itself  (I: a text)">
        <IconButton
          onClick={(event) => setMenu(event.currentTarget)}
          aria-label="Draw on the workpiece"
          data-testid="draw-here"
          sx={sx}
        >
          <EditIcon fontSize="small" />
        </IconButton>
      </Tooltip>
      <Menu anchorEl={menu} open={menu !== null} onClose={() => setMenu(null)}>
        {(Object.keys(DRAWN_HERE) as DrawnHere[]).map((kind) => (
          <MenuItem
            key={kind}
            data-testid={`draw-here-${kind}`}
            onClick={() => {
              setMenu(null)
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
