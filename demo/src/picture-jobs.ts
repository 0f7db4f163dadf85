import {
  assetsSupply,
  croppedTo,
  type JobDocument,
  MACHINES,
  MATERIALS,
  picturedRoot,
  propose,
  proposedPicture,
  type SourceFacts,
  withFraming,
  withPlace,
} from '@neotaxis/core'

const material = (id: string) => MATERIALS.find((each) => each.id === id)!

/** Night over the harbour behind a lacquered pane of 240 × 157 mm: cropped to the glass, mirrored, inverted, in dots. */
export function harbourPaneJob(facts: SourceFacts, bytes: Uint8Array): JobDocument {
  const supply = assetsSupply(() => bytes)
  const settings = {
    workpiece: { widthMm: 240, heightMm: 157, thicknessMm: 4 },
    material: material('float-glass-4'),
    machine: MACHINES[0],
    size: { widthMm: 240 },
  }
  const { job } = propose(facts, proposedPicture(facts, supply), settings, supply).find(({ id }) => id === 'engrave')!
  const { framing } = picturedRoot(job, 'dots')
  const crop = { kind: 'crop', on: true, x: 0, y: 0, width: facts.widthPx, height: facts.heightPx } as const
  const cropped = croppedTo(withFraming(job, 'dots', [crop, ...framing]), 'dots', 0, { widthMm: 240, heightMm: 157 })
  return withPlace({ ...cropped, name: 'Harbour pane' }, 'source', { xMm: 0, yMm: 0, widthMm: 240, heightMm: 157 })
}

/** Saltmere carved into lime wood of 200 × 150 mm, from a height map or from a mesh. */
export function islandReliefJob(facts: SourceFacts, bytes: Uint8Array, name: string): JobDocument {
  const supply = assetsSupply(() => bytes)
  const settings = {
    workpiece: { widthMm: 200, heightMm: 150, thicknessMm: 12 },
    material: material('lime-wood-12'),
    machine: MACHINES[0],
    size: { widthMm: 160 },
  }
  const { job } = propose(facts, proposedPicture(facts, supply), settings, supply).find(({ id }) => id === 'carve-relief')!
  return { ...job, name }
}
