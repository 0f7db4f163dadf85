import { Box, Button, Checkbox, FormControlLabel, TextField, Typography } from '@mui/material'
import type { PersonTold } from '@neotaxis/contract'
import { type FormEvent, useState } from 'react'
import { peopleOrders } from '../api/orders.ts'
import { usePeopleQuery } from '../api/shop.ts'
import { useKept } from '../api/use-kept.ts'
import { ShopBar } from '../features/bar/ShopBar.tsx'
import { useCatalogue } from '../features/bar/use-catalogue.ts'
import { AwayNote } from '../features/live/AwayNote.tsx'
import { useDoing } from '../features/run/use-doing.ts'

/** Who works here, what they may do, and which machines they are certified for. */
export default function PeoplePage() {
  const doing = useDoing()
  const { data: people, trouble, at } = useKept(usePeopleQuery, null)
  const change = (work: () => Promise<unknown>): void => void doing(work)
  return (
    <Box sx={{ minHeight: '100vh' }}>
      <ShopBar>
        <Box sx={{ flex: 1 }} />
      </ShopBar>
      <Box component="main" sx={{ maxWidth: 1100, mx: 'auto', p: 3, display: 'grid', gap: 2 }}>
        <AwayNote trouble={trouble} at={at} />
        <Typography variant="h1">People</Typography>
        <Typography sx={{ color: 'text.secondary' }}>
          Whoever is signed in may look, and may stop any machine. A machine is run by those who are certified for it.
        </Typography>
        {people?.map((person) => (
          <PersonRow key={person.id} person={person} onChange={change} />
        ))}
        <NewPerson onAdd={(person) => change(() => peopleOrders.add(person))} />
      </Box>
    </Box>
  )
}

const card = { bgcolor: 'background.paper', border: 1, borderColor: 'divider', borderRadius: 2, p: 1.8 } as const

function PersonRow({
  person,
  onChange,
}: {
  readonly person: PersonTold
  readonly onChange: (work: () => Promise<unknown>) => void
}) {
  const [pin, setPin] = useState('')
  const [surely, setSurely] = useState(false)
  const { id, name, composes, keeps } = person
  return (
    <Box component="section" aria-label={name} sx={{ ...card, display: 'grid', gap: 1.2 }} data-testid={`person-${name}`}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2 }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          {name}
        </Typography>
        <FormControlLabel
          control={
            <Checkbox checked={composes} onChange={(_, on) => onChange(() => peopleOrders.change(id, { composes: on }))} />
          }
          label="composes jobs"
        />
        <FormControlLabel
          control={<Checkbox checked={keeps} onChange={(_, on) => onChange(() => peopleOrders.change(id, { keeps: on }))} />}
          label="keeps the shop"
        />
        <TextField
          size="small"
          label="New PIN"
          type="password"
          value={pin}
          onChange={(event) => setPin(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== 'Enter' || pin.length < 4) return
            onChange(() => peopleOrders.change(id, { pin }))
            setPin('')
          }}
          sx={{ width: 130 }}
          slotProps={{ htmlInput: { inputMode: 'numeric', autoComplete: 'off' } }}
        />
        <Button color="error" onClick={() => (surely ? onChange(() => peopleOrders.remove(id)) : setSurely(true))}>
          {surely ? 'Really take away' : 'Take away'}
        </Button>
      </Box>
      <Certificates person={person} onChange={onChange} />
    </Box>
  )
}

function Certificates({
  person: { id, certificates },
  onChange,
}: {
  readonly person: PersonTold
  readonly onChange: (work: () => Promise<unknown>) => void
}) {
  const machines = useCatalogue()?.machines ?? []
  const today = new Date().toISOString()
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2 }}>
      {machines.map((machine) => {
        const held = certificates.find(({ machineId }) => machineId === machine.id)
        const until = held?.untilAt?.slice(0, 10) ?? ''
        const over = held?.untilAt != null && held.untilAt < today
        return (
          <Box key={machine.id} sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
            <FormControlLabel
              control={
                <Checkbox
                  checked={held !== undefined}
                  onChange={(_, on) =>
                    onChange(() => (on ? peopleOrders.certify(id, machine.id, null) : peopleOrders.uncertify(id, machine.id)))
                  }
                />
              }
              label={`runs ${machine.name}`}
            />
            {held && (
              <>
                <TextField
                  size="small"
                  type="date"
                  label="until"
                  value={until}
                  error={over}
                  onChange={(event) =>
                    onChange(() =>
                      peopleOrders.certify(id, machine.id, event.target.value ? `${event.target.value}T23:59:59Z` : null),
                    )
                  }
                  slotProps={{ inputLabel: { shrink: true } }}
                />
                <Box sx={{ fontSize: 12.5, color: over ? 'error.main' : 'text.secondary' }}>
                  {over ? 'not any more' : `certified by ${held.certifiedBy}`}
                </Box>
              </>
            )}
          </Box>
        )
      })}
    </Box>
  )
}

function NewPerson({
  onAdd,
}: {
  readonly onAdd: (person: { name: string; pin: string; composes: boolean; keeps: boolean }) => void
}) {
  const [name, setName] = useState('')
  const [pin, setPin] = useState('')
  const add = (event: FormEvent): void => {
    event.preventDefault()
    onAdd({ name, pin, composes: true, keeps: false })
    setName('')
    setPin('')
  }
  return (
    <Box component="form" onSubmit={add} sx={{ ...card, display: 'flex', gap: 1.5, alignItems: 'center' }}>
      <TextField size="small" label="Name" value={name} onChange={(event) => setName(event.target.value)} sx={{ flex: 1 }} />
      <TextField
        size="small"
        label="PIN, 4 to 12 digits"
        type="password"
        value={pin}
        onChange={(event) => setPin(event.target.value)}
        slotProps={{ htmlInput: { inputMode: 'numeric', autoComplete: 'off' } }}
      />
      <Button type="submit" variant="contained" disabled={!name.trim() || !/^\d{4,12}$/.test(pin)} data-testid="add-person">
        Add somebody
      </Button>
    </Box>
  )
}
