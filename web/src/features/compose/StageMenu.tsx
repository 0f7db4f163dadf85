import { Divider, Menu, MenuItem } from '@mui/material'
import { useEffect, useState } from 'react'
import { Quiet } from '../../parts/words.tsx'
import { COMMANDS, canRun, runCommand } from '../bar/commands.ts'

interface At {
  readonly left: number
  readonly top: number
}

const listeners = new Set<(at: At) => void>()

/** Opens the menu of what is selected at a place of the window, CSS px. */
export const openMenu = (left: number, top: number): void => {
  for (const listener of listeners) listener({ left, top })
}

/** In groups, by what they are about. */
const ENTRIES: readonly (readonly (readonly [id: string, words: string])[])[] = [
  [
    ['copy', 'Copy'],
    ['cut-out', 'Cut out'],
    ['paste', 'Paste'],
    ['duplicate', 'Duplicate'],
    ['delete', 'Delete'],
  ],
  [
    ['turn-quarter', 'Turn a quarter'],
    ['view-close', 'Close up'],
    ['picture', 'Treat the picture'],
    ['outline', 'Work on the outline'],
  ],
  [
    ['earlier', 'Run earlier'],
    ['later', 'Run later'],
    ['put-aside', 'Do not run it'],
    ['delete-operation', 'Delete the operation alone'],
  ],
  [
    ['select-all', 'Select all'],
    ['bring-in', 'Bring artwork in'],
    ['draw', 'Draw or write'],
    ['view-whole', 'Show the whole workpiece'],
  ],
]

/** What can be done with the selection, where the right button was pressed or a finger rested. */
export function StageMenu() {
  const [at, setAt] = useState<At>()
  useEffect(() => {
    listeners.add(setAt)
    return () => void listeners.delete(setAt)
  }, [])
  const groups = ENTRIES.map((group) => group.filter(([id]) => canRun(id))).filter((group) => group.length > 0)
  return (
    <Menu
      open={at !== undefined}
      onClose={() => setAt(undefined)}
      anchorReference="anchorPosition"
      {...(at && { anchorPosition: at })}
      data-testid="stage-menu"
    >
      {groups.flatMap((group, i) => [
        ...(i > 0 ? [<Divider key={`before ${group[0][0]}`} />] : []),
        ...group.map(([id, words]) => (
          <MenuItem
            key={id}
            onClick={() => {
              setAt(undefined)
              runCommand(id)
            }}
            data-testid={`menu-${id}`}
          >
            {words}
            <Quiet apart as="span">
              {COMMANDS.find((command) => command.id === id)?.keys}
            </Quiet>
          </MenuItem>
        )),
      ])}
    </Menu>
  )
}
