import { Box, Switch, TextField } from '@mui/material'
import { type Operation, withOperation } from '@neotaxis/core'
import { useEffect, useState } from 'react'
import { useEdit } from '../use-edit.ts'

/** The machine waits before this operation until somebody has done what is asked here. */
export function PauseDetails({ id, operation }: { readonly id: string; readonly operation: Operation }) {
  const edit = useEdit()
  const pause = operation.pauseBefore
  const [text, setText] = useState(pause?.text ?? '')
  useEffect(() => setText(pause?.text ?? ''), [pause?.text])
  const set = (name: string, next: Operation['pauseBefore']): void =>
    edit(name, (base) => withOperation(base, id, { pauseBefore: next }))
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'center', minHeight: 36 }}>
        <Box component="label" htmlFor="pause" sx={{ flex: 1 }}>
          Pause before it
        </Box>
        <Switch
          size="small"
          id="pause"
          checked={pause !== undefined}
          onChange={(_, on) =>
            set(on ? 'pause before' : 'no pause before', on ? { text: 'Wipe the piece clean', newSetUp: false } : undefined)
          }
        />
      </Box>
      {pause && (
        <>
          <TextField
            fullWidth
            size="small"
            label="What is to be done"
            value={text}
            onChange={(event) => setText(event.target.value.slice(0, 300))}
            onBlur={() => text !== pause.text && set('words of the pause', { ...pause, text })}
            sx={{ my: 0.8 }}
          />
          <Box sx={{ display: 'flex', alignItems: 'center', minHeight: 36 }}>
            <Box component="label" htmlFor="new-set-up" sx={{ flex: 1 }}>
              Another set-up: a program file of its own
            </Box>
            <Switch
              size="small"
              id="new-set-up"
              checked={pause.newSetUp}
              onChange={(_, newSetUp) => set(newSetUp ? 'another set-up' : 'same set-up', { ...pause, newSetUp })}
            />
          </Box>
        </>
      )}
    </>
  )
}
