import { Button, Checkbox, FormControlLabel, TextField, Typography } from '@mui/material'
import type { PersonTold } from '@neotaxis/contract'
import { type FormEvent, useState } from 'react'
import { peopleOrders } from '../api/orders.ts'
import { usePeopleQuery } from '../api/shop.ts'
import { useKept } from '../api/use-kept.ts'
import { ShopBar } from '../features/bar/ShopBar.tsx'
import { useCatalogue } from '../features/bar/use-catalogue.ts'
import { AwayNote } from '../features/live/AwayNote.tsx'
import { useDoing } from '../features/run/use-doing.ts'
import { Card } from '../parts/Card.tsx'
import { Page, PageMain } from '../parts/Page.tsx'
import { Row, Spread } from '../parts/Row.tsx'
import { Title } from '../parts/Title.tsx'
import { Quiet, Words } from '../parts/words.tsx'

/** Who works here, what they may do, and which machines they are certified for. */
export default function PeoplePage() {
  const doing = useDoing()
  const { data: people, trouble, at } = useKept(usePeopleQuery, null)
  const change = (work: () => Promise<unknown>): void => void doing(work)
  return (
    <Page>
      <ShopBar>
        <Spread />
      </ShopBar>
      <PageMain width={1100}>
        <AwayNote trouble={trouble} at={at} />
        <Typography variant="h1">People</Typography>
        <Words tone="quiet">
          Whoever is signed in may look, and may stop any machine. A machine is run by those who are certified for it.
        </Words>
        {people?.map((person) => (
          <PersonRow key={person.id} person={person} onChange={change} />
        ))}
        <NewPerson onAdd={(person) => change(() => peopleOrders.add(person))} />
      </PageMain>
    </Page>
  )
}

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
    <Card as="section" aria-label={name} data-testid={`person-${name}`}>
      <Row gap="wide">
        <Title variant="h2" grow>
          {name}
        </Title>
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
      </Row>
      <Certificates person={person} onChange={onChange} />
    </Card>
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
    <Row align="stretch" gap="wide" wraps>
      {machines.map((machine) => {
        const held = certificates.find(({ machineId }) => machineId === machine.id)
        const until = held?.untilAt?.slice(0, 10) ?? ''
        const over = held?.untilAt != null && held.untilAt < today
        return (
          <Row key={machine.id}>
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
                <Quiet tone={over ? 'wrong' : 'quiet'}>{over ? 'not any more' : `certified by ${held.certifiedBy}`}</Quiet>
              </>
            )}
          </Row>
        )
      })}
    </Row>
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
    <Card as="form" onSubmit={add} style={{ gridTemplateColumns: '1fr auto auto', alignItems: 'center' }}>
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
    </Card>
  )
}
