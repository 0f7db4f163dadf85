import { Tooltip } from '@mui/material'
import { type Cost, costOf, FIRST_RATES, type JobDocument, mainPiece, type Rates } from '@neotaxis/core'
import { useCallback } from 'react'
import { useRatesQuery } from '../../api/shop.ts'
import { useAnswer } from '../../api/use-answer.ts'
import { useKept } from '../../api/use-kept.ts'
import { Quiet } from '../../parts/words.tsx'
import { leftOverOf } from '../../workers/engine.ts'
import { tellMoney } from '../field/told.ts'

interface Props {
  readonly job: JobDocument
  readonly machineSeconds: number
  readonly handMinutes: number
}

/** What a cost is made of. */
export const costWords = (cost: Cost, { currency }: Rates): string =>
  [
    ...(cost.materialCents > 0 ? [`material ${tellMoney(cost.materialCents, currency)}`] : []),
    `machine ${tellMoney(cost.machineCents, currency)}`,
    `by hand ${tellMoney(cost.handCents, currency)}`,
  ].join(', ')

/** What a job costs: what it uses of its piece of stock, and time at the shop's rates. */
export function JobCost({ job, machineSeconds, handMinutes }: Props) {
  const { data: rates = FIRST_RATES } = useKept(useRatesQuery, null)
  const cents = mainPiece(job).stock?.cents ?? 0
  const ask = useCallback(() => leftOverOf(job), [job])
  const { value: left } = useAnswer(cents > 0 ? ask : undefined)
  if (cents > 0 && !left) return null
  const cost = costOf({ pieceCents: cents, usedShare: left?.usedShare ?? 1, machineSeconds, handMinutes }, rates)
  return (
    <Tooltip
      title={`${costWords(cost, rates)}.${cents > 0 ? '' : ' Material is counted where the workpiece is from stock and has its worth.'}`}
    >
      <Quiet data-testid="job-cost" data-cents={cost.totalCents}>
        {tellMoney(cost.totalCents, rates.currency)}
      </Quiet>
    </Tooltip>
  )
}
