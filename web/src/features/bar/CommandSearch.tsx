import { Box, Dialog, InputBase, List, ListItemButton, ListItemText } from '@mui/material'
import { useEffect, useState } from 'react'
import { inView } from '../../parts/in-view.ts'
import { Words } from '../../parts/words.tsx'
import { SPACE, TYPE } from '../../theme/tokens.ts'
import { foundCommands, onCommand, runCommand } from './commands.ts'

/** Finds every command by its name. */
export function CommandSearch() {
  const [open, setOpen] = useState(false)
  const [text, setText] = useState('')
  const [at, setAt] = useState(0)
  useEffect(() => onCommand({ search: () => setOpen(true) }), [])
  const close = (): void => {
    setOpen(false)
    setText('')
    setAt(0)
  }
  const found = foundCommands(text).filter(({ id }) => id !== 'search')
  const run = (id: string): void => {
    close()
    setTimeout(() => runCommand(id))
  }
  return (
    <Dialog open={open} onClose={close} fullWidth maxWidth="sm" aria-label="Find a command">
      <Box sx={{ p: 2, pb: 0 }}>
        <InputBase
          autoFocus
          fullWidth
          placeholder="What do you want to do?"
          value={text}
          onChange={(event) => {
            setText(event.target.value)
            setAt(0)
          }}
          onKeyDown={(event) => {
            if (event.key === 'ArrowDown') setAt((i) => Math.min(found.length - 1, i + 1))
            if (event.key === 'ArrowUp') setAt((i) => Math.max(0, i - 1))
            if (event.key === 'Enter' && found[at]) run(found[at].id)
          }}
          inputProps={{ 'aria-label': 'Find a command' }}
          sx={{ fontSize: TYPE.title, py: 1 }}
        />
      </Box>
      <List dense sx={{ maxHeight: 420, overflow: 'auto' }}>
        {found.map(({ id, title, keys }, i) => (
          <ListItemButton key={id} ref={i === at ? inView : undefined} selected={i === at} onClick={() => run(id)}>
            <ListItemText primary={title} />
            <Words tone="quiet">{keys}</Words>
          </ListItemButton>
        ))}
        {found.length === 0 && (
          <Words tone="quiet" pad="wide" style={{ paddingInline: SPACE.wide }}>
            Nothing here is called that.
          </Words>
        )}
      </List>
    </Dialog>
  )
}
