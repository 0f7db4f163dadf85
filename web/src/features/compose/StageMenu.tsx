import { Divider, ListSubheader, Menu, MenuItem, styled } from '@mui/material'
import { useEffect, useState } from 'react'
import { Quiet } from '../../parts/words.tsx'
import { PROCESS_WORDS } from '../../processes/process-words.ts'
import { COMMANDS, canRun, GIVEN_BY_KEY, runCommand } from '../bar/commands.ts'

interface At {
  readonly left: number
  readonly top: number
  /** What it is about: artwork, or a block of the run line. */
  readonly of: 'artwork' | 'block'
}

const listeners = new Set<(at: At) => void>()

/** Opens the menu of what is selected at a place of the window, CSS px. */
export const openMenu = (left: number, top: number, of: At['of'] = 'artwork'): void => {
  for (const listener of listeners) listener({ left, top, of })
}

type Group = readonly (readonly [id: string, words: string])[]

const MADE = (verb: string): Group => GIVEN_BY_KEY.map((process) => [`${verb}-${process}`, PROCESS_WORDS[process].made] as const)
const ITS_TURN: Group = [
  ['earlier', 'Run earlier'],
  ['later', 'Run later'],
  ['put-aside', 'Switch it off, or on again'],
  ['only-operation', 'Show only this, or all again'],
  ['hide-operation', 'Hide it on the stage'],
  ['delete-operation', 'Delete the block alone'],
]
const BEFORE_IT: Group = [
  ['add-pause', 'A pause before it'],
  ['add-by-hand', 'Work by hand before it'],
  ['add-elsewhere', 'A cut elsewhere before it'],
  ['add-set-up', 'Another set-up before it'],
  ['group-steps', 'Make a group of these'],
  ['fold-group', 'Fold or unfold its group'],
  ['ungroup-steps', 'Take the group apart'],
]
const ITS_SETTINGS: Group = [
  ['operation-again', 'Burn it once more'],
  ['copy-settings', 'Take its settings along'],
  ['paste-settings', 'Give it the settings taken along'],
]

/** In groups, by what they are about; a group that needs it has a heading. */
const ENTRIES: Readonly<Record<At['of'], readonly { readonly heading?: string; readonly group: Group }[]>> = {
  artwork: [
    { heading: 'This can be', group: MADE('give') },
    {
      group: [
        ['copy', 'Copy'],
        ['cut-out', 'Cut out'],
        ['paste', 'Paste'],
        ['duplicate', 'Duplicate'],
        ['group-artwork', 'Move and grow as one'],
        ['delete', 'Delete'],
      ],
    },
    {
      group: [
        ['turn-quarter', 'Turn a quarter'],
        ['view-close', 'Close up'],
        ['picture', 'Treat the picture'],
        ['outline', 'Work on the outline'],
      ],
    },
    { group: ITS_TURN },
    {
      group: [
        ['select-all', 'Select all'],
        ['bring-in', 'Bring artwork in'],
        ['draw', 'Draw or write'],
        ['view-whole', 'Show the whole workpiece'],
      ],
    },
  ],
  block: [{ heading: 'Change it to', group: MADE('change') }, { group: ITS_SETTINGS }, { group: ITS_TURN }, { group: BEFORE_IT }],
}

/** What can be done with the selection, where the right button was pressed or a finger rested. */
export function StageMenu() {
  const [at, setAt] = useState<At>()
  useEffect(() => {
    listeners.add(setAt)
    return () => void listeners.delete(setAt)
  }, [])
  const groups = ENTRIES[at?.of ?? 'artwork']
    .map(({ heading, group }) => ({ heading, group: group.filter(([id]) => canRun(id)) }))
    .filter(({ group }) => group.length > 0)
  return (
    <Menu
      open={at !== undefined}
      onClose={() => setAt(undefined)}
      anchorReference="anchorPosition"
      {...(at && { anchorPosition: at })}
      data-testid="stage-menu"
    >
      {groups.flatMap(({ heading, group }, i) => [
        ...(i > 0 ? [<Divider key={`before ${group[0][0]}`} />] : []),
        ...(heading ? [<MenuHeading key={heading}>{heading}</MenuHeading>] : []),
        ...group.map(([id, words]) => (
          <MenuItem
            key={id}
            dense
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

const MenuHeading = styled(ListSubheader)({ lineHeight: 2, background: 'none' })
