import type { Rates } from '@neotaxis/core'
import { stockOrders } from '../../api/orders.ts'
import { Card } from '../../parts/Card.tsx'
import { Title } from '../../parts/Title.tsx'
import { Quiet } from '../../parts/words.tsx'
import { moneyIn, WORDS } from '../field/measures.ts'
import { QuantityField } from '../field/QuantityField.tsx'
import { CountField } from '../field/quantities.tsx'
import { TypedField } from '../field/TypedField.tsx'
import { useDoing } from '../run/use-doing.ts'

/** What the shop counts for time, so that every job says what it costs. */
export function RatesFields({ rates }: { readonly rates: Rates }) {
  const doing = useDoing()
  const set = (change: Partial<Rates>): void => void doing(() => stockOrders.saveRates({ ...rates, ...change }))
  const money = (label: string, key: 'machineHourCents' | 'handHourCents') => (
    <QuantityField
      label={label}
      as={moneyIn(rates.currency)}
      value={rates[key]}
      range={{ min: 0, max: 1e9 }}
      onCommit={(cents) => set({ [key]: cents })}
    />
  )
  return (
    <Card as="section" aria-label="What time costs" gap="none" pad="wide">
      <Title variant="h2">What time costs here</Title>
      <Quiet bottom="snug">With the worth of the material it makes the cost of every job.</Quiet>
      {money('An hour of the machine', 'machineHourCents')}
      {money('An hour by hand', 'handHourCents')}
      <CountField
        label="By hand at every run"
        unit="min"
        digits={1}
        value={rates.runMinutes}
        range={{ min: 0, max: 600 }}
        hint="Laying in, focusing, lifting out."
        onCommit={(runMinutes) => set({ runMinutes })}
      />
      <div style={{ height: 12 }} />
      <TypedField
        as={WORDS}
        label="Currency"
        value={rates.currency}
        onTake={(currency) => currency && set({ currency: currency.slice(0, 6) })}
        width={120}
      />
    </Card>
  )
}
