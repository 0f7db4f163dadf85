import { Button, Popover, TextField, Typography } from '@mui/material'
import { useState } from 'react'
import { Sheet } from '../../parts/Sheet.tsx'
import { Words } from '../../parts/words.tsx'
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
        <Sheet width={260}>
          <Typography variant="h2">{signedIn}</Typography>
          <Words size="plain">This screen is free for somebody else then. What runs goes on.</Words>
          <Button variant="contained" onClick={() => void leave()} data-testid="sign-out">
            Sign out
          </Button>
        </Sheet>
      )}
    </Popover>
  )
}

function NameHere({ onClose }: { readonly onClose: () => void }) {
  const dispatch = useDispatch()
  const [name, setName] = useState(useSelector((state) => state.view.operator))
  return (
    <Sheet
      width={280}
      as="form"
      onSubmit={(event) => {
        event.preventDefault()
        if (name.trim() === '') return
        dispatch(operatorNamed(name))
        onClose()
      }}
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
    </Sheet>
  )
}
