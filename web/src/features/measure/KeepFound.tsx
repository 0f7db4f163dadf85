import { Button, InputBase, Link } from '@mui/material'
import {
  curveOfTrial,
  type JobDocument,
  materialTried,
  QUANTITY_WORDS,
  type Recipe,
  recipeFor,
  recipeOfCell,
  recipeProcess,
  type TrialQuantity,
  tellCell,
  trialOf,
} from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { machineOrders, shopOrders } from '../../api/orders.ts'
import { Card } from '../../parts/Card.tsx'
import { Row } from '../../parts/Row.tsx'
import { Title } from '../../parts/Title.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { useCatalogue } from '../bar/use-catalogue.ts'
import { newId } from '../new-id.ts'
import { offered } from '../offered.tsx'
import { useDoing } from '../run/use-doing.ts'

const today = (): string => new Date().toISOString().slice(0, 10)

interface CurveProps {
  readonly job: JobDocument
  readonly quantity: TrialQuantity
  /** Something is asked about its readings. */
  readonly hasTrouble: boolean
  readonly ready: boolean
}

/** Makes what was measured the curve of the material, or the power of the machine. */
export function KeepCurve({ job, quantity, hasTrouble, ready }: CurveProps) {
  const doing = useDoing()
  const { enqueueSnackbar } = useSnackbar()
  const machines = useCatalogue()?.machines
  const material = materialTried(job)
  const isPower = quantity === 'watts'
  const { name } = QUANTITY_WORDS[quantity]
  const keep = () =>
    doing(async () => {
      const curve = curveOfTrial(job, quantity, `${material.id}-${quantity}-${newId()}`.slice(-40), today())
      if (isPower) {
        const machine = machines?.find(({ id }) => id === job.machine.id)
        if (!machine) throw new Error(`${job.machine.name} is not in the shop any more.`)
        const powerCurve = curve.points.map(({ input, readings }) => ({
          power: input,
          watts: [...readings].sort((a, b) => a - b)[readings.length >> 1],
        }))
        await machineOrders.save({ ...machine, powerCurve, powerRead: today() }, machine.version)
        enqueueSnackbar(`The power of ${machine.name} is what was measured today.`)
      } else {
        await shopOrders.addCurve(material.id, curve)
        enqueueSnackbar(
          `The ${name} curve of ${material.name} is kept. Jobs take it from their recipe, at “The shop knows more”.`,
          {
            autoHideDuration: 9000,
          },
        )
      }
    })
  return (
    <Button
      variant="contained"
      color={hasTrouble ? 'secondary' : 'primary'}
      disabled={!ready}
      onClick={() => void keep()}
      data-testid="keep-curve"
    >
      {isPower ? `Keep as the power of ${job.machine.name}` : `Keep as the ${name} curve of ${material.name}`}
    </Button>
  )
}

/** Makes the best cell the recipe of its material. */
export function KeepBest({ job }: { readonly job: JobDocument }) {
  const doing = useDoing()
  const navigate = useNavigate()
  const { enqueueSnackbar } = useSnackbar()
  const trial = trialOf(job)
  const material = materialTried(job)
  const shop = useCatalogue()?.materials.find(({ id }) => id === material.id)
  const process = recipeProcess(trial.isFor ?? trial.process)
  const found = shop && recipeFor(shop, process, job.machine)
  // What was found with another lens stays beside it.
  const known = found && (found.lens === undefined || found.lens === job.machine.lens) ? found : undefined
  const usual = known?.name ?? `${material.name} ${material.thicknessMm} mm, ${process}`
  const [typed, setTyped] = useState<string>()
  const { best, from } = trial
  const keep = () =>
    doing(async () => {
      if (best === undefined) return
      const name = typed?.trim() || usual
      const recipe: Recipe = recipeOfCell(job, best, { id: known?.id ?? newId(), name, date: today() })
      await shopOrders.bringRecipes([{ material: material.id, recipe }])
      enqueueSnackbar(`“${name}” is the recipe for ${material.name} on ${job.machine.name} now.`, {
        autoHideDuration: 12_000,
        ...(from && {
          action: offered('Back to the job', () => void navigate(`/jobs/${from.job}/compose`), 'back-to-job'),
        }),
      })
    })
  return (
    <Card as="section" aria-label="The best cell" mark={best ? 'chosen' : 'plain'}>
      <Title variant="h2">The best cell</Title>
      {best === undefined ? (
        <Words tone="quiet">Mark the cell that came out best with its star: it becomes the recipe.</Words>
      ) : (
        <>
          <Words weight="strong">{tellCell(trial, best)}</Words>
          <Row>
            <Quiet>is called</Quiet>
            <InputBase
              value={typed ?? usual}
              onChange={(event) => setTyped(event.target.value)}
              inputProps={{ 'aria-label': 'Name of the recipe', maxLength: 200 }}
              style={{ flex: 1, borderBottom: '1px solid' }}
            />
          </Row>
          {known && (
            <Quiet>
              In the place of {Number((100 * known.power).toFixed(1))} %, {known.speedMmS} mm/s; what is known of those settings
              stays in its evidence.
            </Quiet>
          )}
          <Button variant="contained" onClick={() => void keep()} data-testid="keep-best">
            Make it the recipe
          </Button>
        </>
      )}
      {from && (
        <Link component="button" onClick={() => void navigate(`/jobs/${from.job}/compose`)} style={{ justifySelf: 'start' }}>
          Back to the job that it was tried for
        </Link>
      )}
    </Card>
  )
}
