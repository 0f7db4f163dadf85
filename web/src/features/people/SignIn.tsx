import { Box, Button, ButtonBase, Dialog, TextField, Typography } from '@mui/material'
import { type FormEvent, useState } from 'react'
import { sessionOrders } from '../../api/orders.ts'
import { Row } from '../../parts/Row.tsx'
import { Quiet } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { askWhoIsIn } from '../../store/session.ts'
import { EDGE, TYPE, WEIGHT } from '../../theme/tokens.ts'
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
      <Row role="radiogroup" aria-label="Names" align="stretch" wraps pack="center">
        {names.map((one) => (
          <ButtonBase
            key={one}
            role="radio"
            aria-checked={one === name}
            onClick={() => setName(one)}
            sx={{
              minHeight: 52,
              px: 2.4,
              borderRadius: `${EDGE.card}px`,
              fontSize: TYPE.title,
              fontWeight: one === name ? WEIGHT.strong : WEIGHT.plain,
              border: 2,
              borderColor: one === name ? 'primary.main' : 'divider',
              bgcolor: 'background.paper',
            }}
          >
            {one}
          </ButtonBase>
        ))}
      </Row>
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
      <Button type="submit" variant="contained" disabled={busy || name === '' || pin.length < 4} size="large">
        Sign in
      </Button>
      <Quiet>What runs goes on meanwhile. The machine’s own stop works always.</Quiet>
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
