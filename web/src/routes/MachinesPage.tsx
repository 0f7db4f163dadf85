import { Button } from '@mui/material'
import type { Machine } from '@neotaxis/core'
import { useEffect, useState } from 'react'
import { machineOrders } from '../api/orders.ts'
import { useMachinesQuery } from '../api/shop.ts'
import { useKept } from '../api/use-kept.ts'
import { useLive } from '../api/use-live.ts'
import { ShopBar } from '../features/bar/ShopBar.tsx'
import { AwayNote } from '../features/live/AwayNote.tsx'
import { deskSays } from '../features/live/desk-words.ts'
import { MachineProfile } from '../features/machines/MachineProfile.tsx'
import { useDoing } from '../features/run/use-doing.ts'
import { PickCard } from '../parts/Card.tsx'
import { BareList } from '../parts/Column.tsx'
import { Page, PageMain } from '../parts/Page.tsx'
import { Spread } from '../parts/Row.tsx'
import { Name, Quiet } from '../parts/words.tsx'

const newId = (id: string, taken: readonly string[]): string => {
  for (let n = 2; ; n++) if (!taken.includes(`${id}-${n}`.slice(-40))) return `${id}-${n}`.slice(-40)
}

/** The shop's machines: what they can do, their lenses, how they are reached. */
export default function MachinesPage() {
  const doing = useDoing()
  const desks = useLive((live) => live.machines)
  const { data: machines, trouble, at } = useKept(useMachinesQuery, null)
  const [chosen, setSelected] = useState<string>()
  const selected = machines?.some(({ id }) => id === chosen) ? chosen : machines?.[0]?.id
  useEffect(() => {
    document.title = 'Machines · Neotaxis'
  }, [])
  const machine = machines?.find(({ id }) => id === selected)
  const duplicate = (of: Machine): void =>
    void doing(async () => {
      const id = newId(of.id, machines?.map((one) => one.id) ?? [])
      await machineOrders.save({ ...of, id, version: 1, name: `${of.name} (copy)`, address: '' }, null)
      setSelected(id)
    })
  const exported = (of: Machine): void => {
    const link = document.createElement('a')
    link.href = URL.createObjectURL(new Blob([JSON.stringify(of, null, 2)], { type: 'application/json' }))
    link.download = `${of.name}.machine.json`
    link.click()
  }
  const brought = (file: File | undefined): void => {
    if (!file) return
    void doing(async () => {
      let value: Machine
      try {
        value = JSON.parse(await file.text()) as Machine
      } catch {
        throw new Error(`${file.name} is no machine profile.`)
      }
      const taken = machines?.map((one) => one.id) ?? []
      const id = taken.includes(value.id) ? newId(value.id, taken) : value.id
      await machineOrders.save({ ...value, id, version: 1 }, null)
      setSelected(id)
    })
  }
  return (
    <Page>
      <ShopBar>
        <Spread />
        <Button component="label" variant="outlined">
          Bring a profile in
          <input
            type="file"
            accept=".json,application/json"
            hidden
            onChange={(event) => brought(event.target.files?.[0])}
            aria-label="Machine profile"
          />
        </Button>
        <Button component="a" href="/api/catalogue" variant="outlined" download>
          Export all
        </Button>
      </ShopBar>
      <PageMain width={1240} columns="320px minmax(0, 1fr)">
        <AwayNote trouble={trouble} at={at} />
        <BareList>
          {machines?.map((one) => {
            const says = deskSays(desks.find((desk) => desk.machine === one.id))
            return (
              <li key={one.id}>
                <PickCard
                  chosen={one.id === selected}
                  onClick={() => setSelected(one.id)}
                  aria-current={one.id === selected}
                  data-testid={`machine-${one.id}`}
                >
                  <Name>{one.name}</Name>
                  <Quiet>
                    {one.head.kind === 'mirrors' ? 'scan head' : 'moving head'} · {one.axes.x.travelMm} × {one.axes.y.travelMm} mm
                    · {one.watts} W
                  </Quiet>
                  <Quiet weight="firm" tone={says.hot ? 'hot' : 'plain'}>
                    {says.text}
                  </Quiet>
                </PickCard>
              </li>
            )
          })}
        </BareList>
        {machine && (
          <MachineProfile
            key={machine.id}
            machine={machine}
            desk={desks.find((desk) => desk.machine === machine.id)}
            onDuplicate={() => duplicate(machine)}
            onExport={() => exported(machine)}
            onRemove={() =>
              void doing(async () => {
                await machineOrders.remove(machine.id)
                setSelected(undefined)
              })
            }
          />
        )}
      </PageMain>
    </Page>
  )
}
