import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material'
import { useEffect, useState } from 'react'
import { useLocation } from 'react-router'
import { BareList } from '../../parts/Column.tsx'
import { Row } from '../../parts/Row.tsx'
import { Title } from '../../parts/Title.tsx'
import { Words } from '../../parts/words.tsx'
import { useDispatch, useTheme } from '../../store/hooks.ts'
import { themeChosen } from '../../store/view-slice.ts'
import { foundCommands, onCommand } from '../bar/commands.ts'
import { helpOf } from './screens.ts'

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && target.matches('input, textarea, [contenteditable=true]')

/** Help for the screen that one is on, and its keys: by “?”, wherever nobody types. */
export function Help() {
  const { pathname } = useLocation()
  const dispatch = useDispatch()
  const mode = useTheme()
  const [open, setOpen] = useState(false)
  useEffect(() => onCommand({ shortcuts: () => setOpen(true) }), [])
  useEffect(() => {
    const key = (event: KeyboardEvent): void => {
      if (event.key !== '?' || event.defaultPrevented || isTyping(event.target)) return
      event.preventDefault()
      setOpen(true)
    }
    window.addEventListener('keydown', key)
    return () => window.removeEventListener('keydown', key)
  }, [])
  if (!open) return null
  const { name, does, steps } = helpOf(pathname)
  const keys = foundCommands('').filter((command) => command.keys)
  return (
    <Dialog open onClose={() => setOpen(false)} maxWidth="sm" fullWidth aria-labelledby="help-title" data-testid="help">
      <DialogTitle id="help-title">{name}</DialogTitle>
      <DialogContent>
        <Words size="name" bottom="snug">
          {does}
        </Words>
        <BareList gap="snug">
          {steps.map((step) => (
            <li key={step}>
              <Words>{step}</Words>
            </li>
          ))}
        </BareList>
        {keys.length > 0 && (
          <>
            <Title variant="h3" top="wide" bottom="snug">
              Keys
            </Title>
            {keys.map(({ id, title, keys: shown }) => (
              <Row key={id} align="baseline">
                <Words grow>{title}</Words>
                <Words tone="quiet">{shown}</Words>
              </Row>
            ))}
          </>
        )}
      </DialogContent>
      <DialogActions>
        <Button
          color="secondary"
          onClick={() => dispatch(themeChosen(mode === 'light' ? 'dark' : 'light'))}
          data-testid="help-theme"
        >
          {mode === 'light' ? 'Dark' : 'Light'}
        </Button>
        <Button onClick={() => setOpen(false)}>Close</Button>
      </DialogActions>
    </Dialog>
  )
}
