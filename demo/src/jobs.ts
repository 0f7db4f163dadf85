import { encodePng, type JobDocument, type SourceFacts } from '@neotaxis/core'
import { collarFile, collarJob, FOB_BACK, FOB_FRONT, keyFobJob } from './fob-jobs.ts'
import { islandHeights, islandMesh } from './island.ts'
import { boatLabelsJob, drawnFile, LABEL_EDGES, LABEL_NAMES } from './label-jobs.ts'
import { heronJob, soundingsJob, stormShutterJob } from './outline-jobs.ts'
import { heron, soundings, stormShutter } from './outline-pictures.ts'
import { CHART_EDGE, COMPASS, PANEL_EDGE, routedChartJob, wallPanelJob } from './panel-jobs.ts'
import { harbourPaneJob, islandReliefJob } from './picture-jobs.ts'
import { harbourNight, tideClockFace } from './pictures.ts'
import { fishTile, HULL_NAME, hullNameJob, lampCupJob, rollingPinJob, wavesTile } from './round-jobs.ts'
import { tideClockJob } from './tide-clock.ts'
import { GUEST_NAMES, pebbleTrayJob } from './tray-jobs.ts'
import { lidCard, limeWedge, tinLidJob } from './trial-jobs.ts'

/** A job of the demo, and the artwork of it that the shop keeps in its library. */
export interface DemoJob {
  readonly job: JobDocument
  readonly kept: readonly { readonly facts: SourceFacts; readonly said: object }[]
}

const OURS = { name: 'own work', sell: true, change: true, credit: '' }

/** All jobs of the demo, one after the other, the newest last. @param takenIn brings a file in */
export async function* demoJobs(takenIn: (name: string, bytes: Uint8Array) => Promise<SourceFacts>): AsyncGenerator<DemoJob> {
  const names = await takenIn('Boat names', drawnFile(LABEL_NAMES))
  const edges = await takenIn('Label edges', drawnFile(LABEL_EDGES))
  const labels = { name: 'Label edges', drawn: LABEL_EDGES, tags: ['labels'], origin: 'drawn for the boat shed', licence: OURS }
  yield { job: boatLabelsJob(names, edges), kept: [{ facts: edges, said: labels }] }
  yield { job: pebbleTrayJob(await takenIn('Guest names', drawnFile(GUEST_NAMES))), kept: [] }
  const fob = [await takenIn('Boat name', drawnFile(FOB_FRONT)), await takenIn('Berth', drawnFile(FOB_BACK))] as const
  yield { job: keyFobJob(...fob), kept: [] }
  const collar = collarFile()
  yield { job: collarJob(await takenIn('mooring-collar.svg', collar), collar), kept: [] }
  const tile = new TextEncoder().encode(wavesTile())
  yield { job: rollingPinJob(await takenIn('waves.svg', tile), tile), kept: [] }
  const shoal = new TextEncoder().encode(fishTile())
  yield { job: lampCupJob(await takenIn('fish.svg', shoal), shoal), kept: [] }
  yield { job: hullNameJob(await takenIn('Hull name', drawnFile(HULL_NAME))), kept: [] }
  const sketch = encodePng(soundings())
  const sounding = await takenIn('soundings.png', sketch)
  const chart = {
    name: 'Soundings sketch',
    tags: ['chart', 'lines'],
    origin: 'photographed from the pilot’s notebook',
    licence: { name: 'lent by the pilots of Saltmere', sell: false, change: true, credit: 'Pilots of Saltmere' },
  }
  yield { job: soundingsJob(sounding, sketch), kept: [{ facts: sounding, said: chart }] }
  const bird = encodePng(heron())
  const seen = await takenIn('heron.png', bird)
  const photographed = { name: 'Heron', tags: ['birds'], origin: 'photographed on the mudflats', licence: OURS }
  yield { job: heronJob(seen, bird), kept: [{ facts: seen, said: photographed }] }
  const shutter = new TextEncoder().encode(stormShutter())
  const drawn = await takenIn('storm-shutter.svg', shutter)
  const house = {
    name: 'Storm shutter',
    tags: ['houses', 'cut'],
    origin: 'drawn by the harbour office',
    licence: { name: 'as it is', sell: true, change: false, credit: '' },
  }
  yield { job: stormShutterJob(drawn, shutter), kept: [{ facts: drawn, said: house }] }
  const mesh = islandMesh()
  const island = await takenIn('saltmere.stl', mesh)
  const survey = { name: 'Saltmere', tags: ['chart', 'relief'], origin: 'surveyed from the lighthouse', licence: OURS }
  yield { job: islandReliefJob(island, mesh, 'Island relief, from the mesh'), kept: [{ facts: island, said: survey }] }
  const heights = encodePng(islandHeights())
  const relief = islandReliefJob(await takenIn('saltmere-heights.png', heights), heights, 'Island relief')
  // Trials: one measured, one begun.
  for (const { job, assets } of [lidCard(), limeWedge(relief)]) {
    for (const [name, file] of assets) await takenIn(`${name.slice(0, 8)}.svg`, file)
    yield { job, kept: [] }
  }
  yield { job: relief, kept: [] }
  const night = encodePng(harbourNight(2400, 1600))
  const pane = await takenIn('harbour-night.png', night)
  // Compositions of what came in before.
  const compass = await takenIn('Compass', drawnFile(COMPASS))
  const panel = await takenIn('Panel edge', drawnFile(PANEL_EDGE))
  const contour = await takenIn('Chart edge', drawnFile(CHART_EDGE))
  const files = new Map([
    [pane.asset, night],
    [seen.asset, bird],
    [sounding.asset, sketch],
    [compass.asset, drawnFile(COMPASS)],
    [panel.asset, drawnFile(PANEL_EDGE)],
    [contour.asset, drawnFile(CHART_EDGE)],
  ])
  yield { job: routedChartJob(sounding, contour, files), kept: [] }
  yield { job: wallPanelJob(pane, seen, compass, panel, files), kept: [] }
  const harbour = { name: 'Harbour at night', tags: ['harbour', 'photos'], origin: 'from the ferry’s deck', licence: OURS }
  yield { job: harbourPaneJob(pane, night), kept: [{ facts: pane, said: harbour }] }
  const face = encodePng(tideClockFace())
  const clock = await takenIn('tide-clock-face.png', face)
  yield { job: tinLidJob(clock, face), kept: [] }
  yield { job: tideClockJob(clock), kept: [] }
}
