import { Box, Button, ButtonBase, Popover, TextField, Tooltip, Typography } from '@mui/material'
import { useRef, useState } from 'react'
import { useDispatch, useSelector } from '../../store/hooks.ts'
import { leave } from '../../store/session.ts'
import { operatorNamed } from '../../store/view-slice.ts'

/** Who works at this screen: whoever is signed in, or a name that is kept in this browser. It stands beside every run. */
export function Operator() {
  const person = useSelector(({ session }) => (session.signsIn ? session.person : null))
  return person ? <SignedIn name={person.name} /> : <NamedHere />
}

function SignedIn({ name }: { readonly name: string }) {
  const chip = useRef<HTMLButtonElement>(null)
  const [open, setOpen] = useState(false)
  return (
    <>
      <Tooltip title="Who is signed in: stands beside every run">
        <ButtonBase
          ref={chip}
          onClick={() => setOpen(true)}
          data-testid="operator"
          sx={{ minHeight: 34, px: 1, fontSize: 14, whiteSpace: 'nowrap' }}
        >
          {name}
        </ButtonBase>
      </Tooltip>
      <Popover
        open={open}
        anchorEl={chip.current}
        onClose={() => setOpen(false)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      >
        <Box sx={{ p: 2, width: 260, display: 'grid', gap: 1.5 }}>
          <Typography variant="h2">{name}</Typography>
          <Typography sx={{ fontSize: 13.5 }}>This screen is free for somebody else then. What runs goes on.</Typography>
          <Button variant="contained" onClick={() => void leave()} data-testid="sign-out">
            Sign out
          </Button>
        </Box>
      </Popover>
    </>
  )
}

function NamedHere() {
  const dispatch = useDispatch()
  const operator = useSelector((state) => state.view.operator)
  const chip = useRef<HTMLButtonElement>(null)
  const [open, setOpen] = useState(false)
  const [name, setName] = useState(operator)
  const take = (): void => {
    if (name.trim() === '') return
    dispatch(operatorNamed(name))
    setOpen(false)
  }
  return (
    <>
      <Tooltip title="Who works here: stands beside every run">
        <ButtonBase
          ref={chip}
          onClick={() => {
            setName(operator)
            setOpen(true)
          }}
          data-testid="operator"
          sx={{
            minHeight: 34,
            px: 1,
            fontSize: 14,
            fontWeight: operator ? 400 : 700,
            color: operator ? 'text.primary' : 'primary.main',
            whiteSpace: 'nowrap',
          }}
        >
          {operator || 'Who are you?'}
        </ButtonBase>
      </Tooltip>
      <Popover
        open={open}
        anchorEl={chip.current}
        onClose={() => setOpen(false)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      >
        <Box
          component="form"
          onSubmit={(event) => {
            event.preventDefault()
            take()
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
      </Popover>
    </>
  )
}
