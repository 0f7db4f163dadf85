import {
  assetsSupply,
  cardAround,
  evenSteps,
  type JobDocument,
  MACHINES,
  MATERIALS,
  propose,
  proposedPicture,
  readReadings,
  type SourceFacts,
  type TrialCard,
  trialCard,
  withBest,
} from '@neotaxis/core'

const material = (id: string) => MATERIALS.find((each) => each.id === id)!

/** The face of the tide clock, lifted out of the lacquer of a tin lid of 80 × 80 mm: filled, cleaned, its edge last. */
export function tinLidJob(facts: SourceFacts, bytes: Uint8Array): JobDocument {
  const supply = assetsSupply(() => bytes)
  const settings = {
    workpiece: { widthMm: 80, heightMm: 80, thicknessMm: 0.3 },
    material: material('tin-lid-03'),
    machine: MACHINES[0],
    size: { widthMm: 56 },
  }
  const { job } = propose(facts, proposedPicture(facts, supply), settings, supply).find(({ id }) => id === 'lift-coating')!
  return { ...job, name: 'Tin lid, tide clock' }
}

/**
 * What a depth gauge read on the wedge below, mm: burned by the simulated bench laser on lime wood whose answer wanders by 3 %, and
 * measured in the middle of each cell.
 */
const LIME_DEPTHS = `power %,depth mm
7.2,0.19
14.4,0.46
21.6,0.74
28.8,1.02
36,1.29
43.2,1.55
50.4,1.80
57.6,2.06
64.8,2.33
72,2.62
`

/** A finished trial: the wedge of a relief in lime wood, measured, its best cell marked. */
export function limeWedge(relief: JobDocument): TrialCard {
  const [id] = Object.keys(relief.operations)
  const { spec, setting } = cardAround(relief, id, 'wedge')
  const { job, assets } = trialCard(spec, setting)
  const read = readReadings(LIME_DEPTHS, job).job
  return { job: { ...withBest(read, 'cell-1-8'), name: 'Wedge for the island relief' }, assets }
}

/** A trial that was begun and not measured yet: how the lacquer of the lids lifts. */
export function lidCard(): TrialCard {
  const lid = material('tin-lid-03')
  const { job, assets } = trialCard(
    {
      process: 'area',
      across: { setting: 'power', values: evenSteps(0.2, 0.6, 5) },
      down: { setting: 'speedMmS', values: [400, 280, 200, 140] },
      settings: { intervalMm: 0.06 } as never,
    },
    { workpiece: { widthMm: 80, heightMm: 80, thicknessMm: 0.3 }, material: lid, machine: MACHINES[0] },
  )
  return { job: { ...job, name: 'Trial: lacquer off the lids' }, assets }
}
