import { Box, Button, Popover, TextField, Typography } from '@mui/material'
import { useState } from 'react'
import { useDispatch, useSelector } from '../../store/hooks.ts'
import { leave } from '../../store/session.ts'
import { operatorNamed } from '../../store/view-slice.ts'

interface Props {
  readonly at: HTMLElement | null
  /** Who is signed in; null where nobody signs in. */
  readonly signedIn: string | null
  readonly onClose: () => void
}

/** Says who works here, or signs out. */
export default function OperatorPopover({ at, signedIn, onClose }: Props) {
  return (
    <Popover open anchorEl={at} onClose={onClose} anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}>
      {signedIn === null ? (
        <NameHere onClose={onClose} />
      ) : (
        <Box sx={{ p: 2, width: 260, display: 'grid', gap: 1.5 }}>
          <Typography variant="h2">{signedIn}</Typography>
          <Typography sx={{ fontSize: 13.5 }}>This screen is free for somebody else then. What runs goes on.</Typography>
          <Button variant="contained" onClick={() => void leave()} data-testid="sign-out">
            Sign out
          </Button>
        </Box>
      )}
    </Popover>
  )
}

function NameHere({ onClose }: { readonly onClose: () => void }) {
  const dispatch = useDispatch()
  const [name, setName] = useState(useSelector((state) => state.view.operator))
  return (
    <Box
      component="form"
      onSubmit={(event) => {
        event.preventDefault()
        if (name.trim() === '') return
        dispatch(operatorNamed(name))
        onClose()
      }}
      sx={{ p: 2, width: 280, display: 'grid', gap: 1.5 }}
    >
      <Typography variant="h2">Who works here?</Typography>
      <TextField
        label="Your name"
        size="small"
        autoFocus
        value={name}
        onChange={(event) => setName(event.target.value)}
        slotProps={{ htmlInput: { maxLength: 60 } }}
      />
      <Button type="submit" variant="contained">
        That is me
      </Button>
    </Box>
  )
}
