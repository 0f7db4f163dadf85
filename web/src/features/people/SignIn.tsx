import { Box, Button, ButtonBase, Dialog, TextField, Typography } from '@mui/material'
import { type FormEvent, useState } from 'react'
import { sessionOrders } from '../../api/orders.ts'
import { useSelector } from '../../store/hooks.ts'
import { askWhoIsIn } from '../../store/session.ts'
import { Wordmark } from '../bar/Wordmark.tsx'

/** Who works here: one name, one PIN. It lies over whatever screen is open, so that nothing of it is lost. */
export default function SignIn() {
  const { names, isNew } = useSelector((state) => state.session)
  return (
    <Dialog open fullScreen aria-label="Sign in">
      <Box sx={{ display: 'grid', placeContent: 'center', height: '100%', gap: 3, bgcolor: 'background.default' }}>
        <Box sx={{ justifySelf: 'center' }}>
          <Wordmark />
        </Box>
        {isNew ? <FirstPerson /> : <WithPin names={names} />}
      </Box>
    </Dialog>
  )
}

/** Does it, and says what went wrong. */
function useTry(): { readonly trouble: string; readonly busy: boolean; readonly attempt: (work: () => Promise<void>) => void } {
  const [trouble, setTrouble] = useState('')
  const [busy, setBusy] = useState(false)
  const attempt = (work: () => Promise<void>): void => {
    setBusy(true)
    setTrouble('')
    work()
      .then(askWhoIsIn)
      .catch((cause: Error) => setTrouble(cause.message))
      .finally(() => setBusy(false))
  }
  return { trouble, busy, attempt }
}

const digits = { htmlInput: { inputMode: 'numeric', autoComplete: 'off', maxLength: 12, 'data-testid': 'pin' } } as const

function WithPin({ names }: { readonly names: readonly string[] }) {
  const last = useSelector((state) => state.view.operator)
  const [name, setName] = useState(names.includes(last) ? last : '')
  const [pin, setPin] = useState('')
  const { trouble, busy, attempt } = useTry()
  const submit = (event: FormEvent): void => {
    event.preventDefault()
    attempt(() => sessionOrders.signIn(name, pin).finally(() => setPin('')))
  }
  return (
    <Box component="form" onSubmit={submit} sx={{ display: 'grid', gap: 2, width: 420 }}>
      <Typography variant="h1" sx={{ textAlign: 'center' }}>
        Who works here?
      </Typography>
      <Box role="radiogroup" aria-label="Names" sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, justifyContent: 'center' }}>
        {names.map((one) => (
          <ButtonBase
            key={one}
            role="radio"
            aria-checked={one === name}
            onClick={() => setName(one)}
            sx={{
              minHeight: 52,
              px: 2.4,
              borderRadius: 2,
              fontSize: 18,
              fontWeight: one === name ? 750 : 500,
              border: 2,
              borderColor: one === name ? 'primary.main' : 'divider',
              bgcolor: 'background.paper',
            }}
          >
            {one}
          </ButtonBase>
        ))}
      </Box>
      <TextField
        key={name}
        label={name === '' ? 'Choose a name first' : `PIN of ${name}`}
        type="password"
        autoFocus={name !== ''}
        disabled={name === ''}
        value={pin}
        onChange={(event) => setPin(event.target.value)}
        error={trouble !== ''}
        helperText={trouble || ' '}
        slotProps={digits}
      />
      <Button
        type="submit"
        variant="contained"
        size="large"
        disabled={busy || name === '' || pin.length < 4}
        sx={{ minHeight: 56 }}
      >
        Sign in
      </Button>
      <Typography sx={{ color: 'text.secondary', textAlign: 'center', fontSize: 13 }}>
        What runs goes on meanwhile. The machine’s own stop works always.
      </Typography>
    </Box>
  )
}

function FirstPerson() {
  const [key, setKey] = useState('')
  const [name, setName] = useState('')
  const [pin, setPin] = useState('')
  const { trouble, busy, attempt } = useTry()
  const submit = (event: FormEvent): void => {
    event.preventDefault()
    attempt(() => sessionOrders.first(key, name, pin))
  }
  return (
    <Box component="form" onSubmit={submit} sx={{ display: 'grid', gap: 2, width: 420 }}>
      <Typography variant="h1">Nobody keeps this shop yet</Typography>
      <Typography>
        Whoever knows the shop’s key (it was set where the server was started) becomes the first: they add the others, and say who
        may run which machine.
      </Typography>
      <TextField label="Key of the shop" type="password" value={key} onChange={(event) => setKey(event.target.value)} autoFocus />
      <TextField label="Your name" value={name} onChange={(event) => setName(event.target.value)} />
      <TextField
        label="Your PIN, 4 to 12 digits"
        type="password"
        value={pin}
        onChange={(event) => setPin(event.target.value)}
        error={trouble !== ''}
        helperText={trouble || ' '}
        slotProps={digits}
      />
      <Button type="submit" variant="contained" size="large" disabled={busy || !key || !name.trim() || pin.length < 4}>
        Keep this shop
      </Button>
    </Box>
  )
}
