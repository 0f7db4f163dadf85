import { newStock } from '@neotaxis/contract'
import {
  archOf,
  assetsSupply,
  burnOrder,
  checkFindings,
  checkJob,
  cleanReports,
  curveOfTrial,
  type Drawn,
  decodePng,
  depthOf,
  elsewhereDrawing,
  encodePng,
  fitCurve,
  greyFromPng,
  histogram,
  type JobDocument,
  jobPieces,
  mainPiece,
  measureJob,
  otsuThreshold,
  outlineFacts,
  outlineRings,
  type PictureOperation,
  pngSize,
  ResultCache,
  readDrawing,
  readingTroubles,
  ringsBounds,
  roundRows,
  type SourceFacts,
  type StockPiece,
  setUps,
  toGrey,
  whichFit,
} from '@neotaxis/core'
import { marksOf } from '@neotaxis/core/testing/sample-job'
import { describe, expect, it } from 'vitest'
import { collarFile, collarJob, FOB_BACK, FOB_FRONT, keyFobJob } from './fob-jobs.ts'
import { islandHeights, islandMesh } from './island.ts'
import { boatLabelsJob, drawnFile, LABEL_EDGES, LABEL_NAMES } from './label-jobs.ts'
import { heronJob, soundingsJob, stormShutterJob } from './outline-jobs.ts'
import { heron, soundings } from './outline-pictures.ts'
import { CHART_EDGE, COMPASS, PANEL_EDGE, routedChartJob, wallPanelJob } from './panel-jobs.ts'
import { harbourPaneJob, islandReliefJob } from './picture-jobs.ts'
import { dropFiles, harbourNight, tideClockFace } from './pictures.ts'
import { fishTile, HULL_NAME, hullNameJob, lampCupJob, rollingPinJob, wavesTile } from './round-jobs.ts'
import { demoStock } from './stock.ts'
import { tideClockJob } from './tide-clock.ts'
import { GUEST_NAMES, pebbleTrayJob } from './tray-jobs.ts'
import { lidCard, limeWedge, tinLidJob } from './trial-jobs.ts'

describe('the tide clock', () => {
  const job = tideClockJob({ name: 'tide-clock-face.png', asset: 'e'.repeat(64), widthPx: 1600, heightPx: 1600, hasAlpha: false })
  const picture = toGrey(tideClockFace())
  const supply = { cache: new ResultCache(), picture: () => picture }

  it('is a whole job that is ready to run', () => {
    expect(checkJob(job)).toEqual(job)
    expect(checkFindings(job, supply)).toEqual([])
    expect(burnOrder(job)).toEqual(['engrave', 'cut'])
  })

  it('takes some minutes, most of them for the picture', () => {
    const { seconds, operations } = measureJob(job, supply)
    expect(seconds).toBeGreaterThan(300)
    expect(seconds).toBeLessThan(1500)
    expect(operations[0].seconds).toBeGreaterThan(operations[1].seconds)
  })
})

describe('jobs of several sources', () => {
  const files = new Map<string, Uint8Array>()
  const put = (name: string, bytes: Uint8Array): SourceFacts => {
    const asset = String.fromCharCode(97 + files.size).repeat(64)
    files.set(asset, bytes)
    const isPicture = bytes[0] === 0x89
    const size = (isPicture && pngSize(bytes)) || { widthPx: 100, heightPx: 100 }
    return { name, asset, ...size, hasAlpha: !isPicture, ...(isPicture ? {} : { drawing: readDrawing(bytes) }) }
  }
  const supply = assetsSupply((asset) => files.get(asset))

  it('are a panel: nothing burned twice, inner cuts before its edge, all of it as one', () => {
    const job = wallPanelJob(
      put('harbour', encodePng(harbourNight(600, 400))),
      put('heron', encodePng(heron())),
      put('compass', drawnFile(COMPASS)),
      put('edge', drawnFile(PANEL_EDGE)),
      files,
    )
    expect(checkJob(job)).toEqual(job)
    expect(checkFindings(job, supply).filter(({ severity }) => severity !== 'note')).toEqual([])
    expect(burnOrder(job).map((id) => job.operations[id].process)).toEqual(['picture', 'area', 'cut', 'cut'])
    expect(new Set(Object.values(job.groups!)).size).toBe(1)
  })

  it('are a chart in two set-ups: routed, cleaned, engraved under a mask, turned over and scored', () => {
    const job = routedChartJob(put('soundings', encodePng(soundings())), put('chart', drawnFile(CHART_EDGE)), files)
    expect(checkJob(job)).toEqual(job)
    expect(checkFindings(job, supply).filter(({ severity }) => severity !== 'note')).toEqual([])
    expect(job.order.map((id) => job.steps[id].kind)).toEqual(['elsewhere', 'by-hand', 'burn', 'set-up', 'burn'])
    expect(setUps(job)).toHaveLength(2)
    // Bridges part the path of the tool.
    expect(elsewhereDrawing(job, job.order[0], supply).shapes.at(-1)!.paths.length).toBeGreaterThan(1)
  })
})

describe('things that turn', () => {
  it('are a rolling pin whose waves go six times around and close within one step of its rollers', () => {
    const tile = new TextEncoder().encode(wavesTile())
    const facts = {
      name: 'waves.svg',
      asset: 'f'.repeat(64),
      widthPx: 100,
      heightPx: 100,
      hasAlpha: true,
      drawing: readDrawing(tile),
    }
    const job = rollingPinJob(facts, tile)
    expect(checkJob(job)).toEqual(job)
    const supply = assetsSupply(() => tile)
    expect(checkFindings(job, supply).filter(({ severity }) => severity !== 'note')).toEqual([])
    expect(roundRows(job, 'source')).toMatchObject({ count: 6, gapMm: expect.closeTo(0, 3) })
    expect(job.machine.turns?.diameterMm).toBe(64)
  })

  it('and a tapered cup whose shoal closes around it', () => {
    const tile = new TextEncoder().encode(fishTile())
    const facts = {
      name: 'fish.svg',
      asset: 'd'.repeat(64),
      widthPx: 100,
      heightPx: 100,
      hasAlpha: true,
      drawing: readDrawing(tile),
    }
    const job = lampCupJob(facts, tile)
    expect(checkJob(job)).toEqual(job)
    expect(
      checkFindings(
        job,
        assetsSupply(() => tile),
      ).filter(({ severity }) => severity !== 'note'),
    ).toEqual([])
    expect(roundRows(job, 'source')).toMatchObject({ count: 11, bands: 3 })
    expect(mainPiece(job).surface).toMatchObject({ kind: 'cone', leftMm: 80, rightMm: 60, lip: 'left' })
  })

  it('and a plank of a hull, curved across: sharp where its name is scored', () => {
    const bytes = drawnFile(HULL_NAME)
    const facts = {
      name: 'Hull name',
      asset: 'e'.repeat(64),
      widthPx: 100,
      heightPx: 100,
      hasAlpha: true,
      drawing: readDrawing(bytes),
    }
    const job = hullNameJob(facts)
    expect(checkJob(job)).toEqual(job)
    expect(
      checkFindings(
        job,
        assetsSupply(() => bytes),
      ).filter(({ severity }) => severity !== 'note'),
    ).toEqual([])
    // 90 mm wide, 6 mm higher in the middle: 90² / (8 · 6) + 6 / 2.
    expect(archOf(mainPiece(job))).toEqual({ across: 'y', crownMm: 45, radiusMm: 171.75 })
  })
})

describe('the pictures', () => {
  const facts = { asset: 'd'.repeat(64), hasAlpha: false }

  it('are a pane cropped to its glass, mirrored and inverted', () => {
    const bytes = encodePng(harbourNight(600, 400))
    const job = harbourPaneJob({ ...facts, name: 'night.png', widthPx: 600, heightPx: 400 }, bytes)
    expect(checkJob(job)).toEqual(job)
    expect(job.placements.source).toMatchObject({ xMm: 0, yMm: 0, widthMm: 240, heightMm: 157 })
    const { source, dots } = job.nodes
    expect(source.kind === 'source' && source.framing.map(({ kind }) => kind)).toEqual(['crop', 'mirror'])
    expect(dots.kind === 'picture' && dots.order).toContain('invert')
    const supply = assetsSupply(() => bytes)
    const { columns, rows } = marksOf(job, job.operations.engrave as PictureOperation, supply)
    expect([columns, rows]).toEqual([Math.round(240 / 0.127), Math.round(157 / 0.127)])
    expect(checkFindings(job, supply).filter(({ severity }) => severity === 'stop')).toEqual([])
  })

  it('are an island that is the same relief from its height map and from its mesh', () => {
    const heights = encodePng(islandHeights(400, 300))
    const mesh = islandMesh()
    const flat = islandReliefJob({ ...facts, name: 'a.png', widthPx: 400, heightPx: 300 }, heights, 'map')
    const size = { widthPx: 400, heightPx: 300, mesh: { width: 160, height: 120, depth: 14 } }
    const solid = islandReliefJob({ ...facts, name: 'a.stl', ...size }, mesh, 'mesh')
    expect([checkJob(flat), checkJob(solid)]).toEqual([flat, solid])
    const marks = (job: JobDocument, bytes: Uint8Array) =>
      marksOf(
        job,
        { ...(job.operations.relief as PictureOperation), intervalMm: 0.8 },
        assetsSupply(() => bytes),
      )
    const a = marks(flat, heights)
    const b = marks(solid, mesh)
    expect([a.columns, a.rows]).toEqual([b.columns, b.rows])
    let off = 0
    for (let i = 0; i < a.levels.length; i++) off += Math.abs(a.levels[i] - b.levels[i]) / a.levels.length
    // The mesh's own highest point is white, the map's may be a little less.
    expect(off).toBeLessThan(8)
    const relief = flat.operations.relief as PictureOperation
    expect(relief.evenIn).toBe('depth')
    expect(relief.minPower).toBeGreaterThan(0.02)
  })
})

describe('the files to drop', () => {
  const files = dropFiles()

  it('are of the kinds that people have', () => {
    expect(Object.keys(files).sort()).toEqual([
      'boats.csv',
      'ferry.png',
      'harbour-night.png',
      'heron.png',
      'lino-fish.png',
      'saltmere-heights.png',
      'saltmere.stl',
      'soundings.png',
      'storm-shutter.svg',
    ])
    const counts = (name: string): Uint32Array => histogram(greyFromPng(files[name]))
    const used = (list: Uint32Array): number => list.filter((n) => n > 0).length
    expect(used(counts('harbour-night.png'))).toBeGreaterThan(150)
    const two = counts('lino-fish.png')
    expect((two[0] + two[255]) / two.reduce((sum, n) => sum + n, 0)).toBeGreaterThan(0.97)
    expect(otsuThreshold(two)).toBeCloseTo(0.5, 1)
  })

  it('tell transparency and size where they have them', () => {
    const ferry = decodePng(files['ferry.png'])
    expect(ferry.pixelsPerMm).toBeCloseTo(12, 3)
    expect(greyFromPng(files['ferry.png']).alpha).toBeDefined()
    expect(greyFromPng(files['lino-fish.png']).alpha).toBeUndefined()
  })

  it('are the same bytes every time', () => {
    for (const [name, bytes] of Object.entries(dropFiles()))
      expect(Buffer.compare(Buffer.from(bytes), Buffer.from(files[name]))).toBe(0)
  })
})

describe('jobs of outlines', () => {
  const taken = (name: string, bytes: Uint8Array, drawing?: SourceFacts['drawing']): SourceFacts => {
    const size = drawing ? { widthPx: 10, heightPx: 10 } : pngSize(bytes)!
    return { name, asset: 'a'.repeat(64), ...size, hasAlpha: false, ...(drawing ? { drawing } : {}) }
  }
  const files = dropFiles()

  it('score the soundings along their strokes, crumbs left out', () => {
    const bytes = files['soundings.png']
    const job = checkJob(soundingsJob(taken('soundings.png', bytes), bytes))
    const supply = assetsSupply(() => bytes)
    const { paths, lengthMm } = outlineFacts(job, 'clean', supply)
    expect(paths).toBeLessThan(outlineFacts(job, 'strokes', supply).paths)
    // Coast and two depth lines alone are over a metre.
    expect(lengthMm).toBeGreaterThan(1000)
    expect(lengthMm).toBeLessThan(2000)
    expect(checkFindings(job, supply).filter(({ severity }) => severity !== 'note')).toEqual([])
  })

  it('cut the storm shutter so that nothing falls that is wanted', () => {
    const bytes = files['storm-shutter.svg']
    const job = checkJob(stormShutterJob(taken('storm-shutter.svg', bytes, readDrawing(bytes)), bytes))
    const fates = jobPieces(
      job,
      assetsSupply(() => bytes),
    ).map(({ fate }) => fate)
    expect(fates).not.toContain('lost')
    expect(fates.filter((fate) => fate === 'part')).toHaveLength(1)
    expect(fates.filter((fate) => fate === 'waste').length).toBeGreaterThan(10)
  })

  it('cut the heron out in one piece, without the reeds around it', () => {
    const bytes = files['heron.png']
    const job = checkJob(heronJob(taken('heron.png', bytes), bytes))
    const supply = assetsSupply(() => bytes)
    expect(outlineFacts(job, 'clean', supply).paths).toBe(1)
    expect(cleanReports(job, 'clean', supply).holes.removed).toBeGreaterThan(3)
    expect(outlineRings(job, 'around', supply)).toHaveLength(1)
  })
})

describe('the boat shed labels', () => {
  it('are a whole job: a name on every label, nothing said against it, both moving as one', () => {
    const files = new Map([LABEL_NAMES, LABEL_EDGES].map((drawn, i) => [String(i).repeat(64), drawnFile(drawn)]))
    const facts = (i: number): SourceFacts => ({
      name: 'labels',
      asset: String(i).repeat(64),
      widthPx: 10,
      heightPx: 10,
      hasAlpha: true,
      drawing: readDrawing(files.get(String(i).repeat(64))!),
    })
    const job = checkJob(boatLabelsJob(facts(0), facts(1)))
    const supply = assetsSupply((asset) => files.get(asset))
    expect(checkFindings(job, supply)).toEqual([])
    expect(burnOrder(job)).toEqual(['score', 'cut-edges'])
    const labels = outlineRings(job, 'outline-edges', supply)
    expect(labels).toHaveLength(9)
    // Every stroke of a name lies on a label.
    for (const line of outlineRings(job, 'lines', supply)) {
      const on = labels.filter((label) => {
        const box = ringsBounds([label])
        return line[0] > box.x0 && line[0] < box.x1 && line[1] > box.y0 && line[1] < box.y1
      })
      expect(on).toHaveLength(1)
    }
  })
})

describe('pieces of the demo', () => {
  const facts = (name: string, bytes: Uint8Array): SourceFacts => {
    const { widthMm, heightMm } = readDrawing(bytes)
    return { name, asset: name.slice(0, 1).repeat(64), widthPx: 0, heightPx: 0, hasAlpha: false, drawing: { widthMm, heightMm } }
  }
  const text = (name: string, drawn: Drawn) => facts(name, drawnFile(drawn))

  it('twelve pebbles lie beside each other, each with its own guest, inside its edge', () => {
    const job = checkJob(JSON.parse(JSON.stringify(pebbleTrayJob(text('a', GUEST_NAMES)))))
    expect(Object.keys(job.workpieces)).toHaveLength(12)
    const supply = assetsSupply(() => drawnFile(GUEST_NAMES))
    expect(new Set(Object.values(job.placements).map(({ entry }) => entry)).size).toBe(12)
    expect(checkFindings(job, supply).filter(({ severity }) => severity !== 'note')).toEqual([])
  })

  it('a key fob has both sides, the back behind the set-up and clear of its ring', () => {
    const files = new Map([
      ['a'.repeat(64), drawnFile(FOB_FRONT)],
      ['b'.repeat(64), drawnFile(FOB_BACK)],
    ])
    const made = keyFobJob(text('a', FOB_FRONT), text('b', FOB_BACK))
    const job = checkJob(JSON.parse(JSON.stringify(made)))
    expect(setUps(job)).toHaveLength(2)
    const found = checkFindings(
      job,
      assetsSupply((asset) => files.get(asset)),
    )
    expect(found.filter(({ kind }) => ['keep-out', 'outside-workpiece', 'not-turned', 'pieces-overlap'].includes(kind))).toEqual(
      [],
    )
  })

  it('a collar is cut from an offcut with a corner missing; the shelf has what it could be made of', () => {
    const bytes = collarFile()
    const job = checkJob(JSON.parse(JSON.stringify(collarJob(facts('c', bytes), bytes))))
    const supply = assetsSupply(() => bytes)
    expect(checkFindings(job, supply).filter(({ severity }) => severity === 'stop')).toEqual([])
    const stock = demoStock().map((said, i): StockPiece => ({ ...said, id: String(i) }))
    const fits = whichFit(job, supply, stock, 2)
    expect(fits.map(({ piece }) => piece.name)).toEqual(['lamp base rest', 'clear acrylic sheet'])
  })

  it('the shelf is what the server takes', () => {
    for (const said of demoStock()) expect(newStock.validate(said, { convert: false }).error, said.name).toBeUndefined()
  })
})

describe('trials', () => {
  const bytes = encodePng(tideClockFace())
  const face: SourceFacts = { name: 'tide-clock-face.png', asset: 'b'.repeat(64), ...pngSize(bytes)!, hasAlpha: false }
  const high = encodePng(islandHeights())
  const heights: SourceFacts = { name: 'heights.png', asset: 'h'.repeat(64), ...pngSize(high)!, hasAlpha: false }

  it('are one that is measured and one that is not, each an ordinary job that is ready', () => {
    const measured = limeWedge(islandReliefJob(heights, high, 'Island relief'))
    const begun = lidCard()
    for (const { job, assets } of [measured, begun]) {
      expect(checkJob(JSON.parse(JSON.stringify(job)))).toEqual(JSON.parse(JSON.stringify(job)))
      const findings = checkFindings(
        job,
        assetsSupply((name) => assets.get(name)),
      )
      expect(findings.filter(({ severity }) => severity !== 'note')).toEqual([])
    }
    expect(begun.job.trial!.readings).toBeUndefined()
    const curve = curveOfTrial(measured.job, 'depth', 'c', '2026-11-29')
    expect(curve.points).toHaveLength(10)
    // As deep as the curve that ships says, which other cards gave.
    const fitted = fitCurve(curve)
    const shipped = depthOf(Object.values(measured.job.materials)[0], fitted.to, 'bench-60')!
    expect(Math.abs(fitted.at(fitted.to) / shipped - 1)).toBeLessThan(0.05)
    expect(readingTroubles(measured.job, 'depth')).toEqual([])
  })

  it('lead to a lid whose coating is lifted and whose base is left alone', () => {
    const job = tinLidJob(face, bytes)
    const supply = assetsSupply(() => bytes)
    expect(burnOrder(job)).toEqual(['lift', 'clean', 'edge'])
    expect(checkFindings(job, supply).filter(({ severity }) => severity !== 'note')).toEqual([])
  })
})
