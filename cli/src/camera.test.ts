// The bed camera from the command line, against photos of a simulated one whose lens nobody here knows.
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import {
  BED_BOARD,
  boardDots,
  boardFor,
  boardSpots,
  calibrated,
  decodePng,
  firstDot,
  flattenPath,
  lightOf,
  photoOf,
  readCameraFile,
  readSvg,
  rectified,
  sightOf,
} from '@neotaxis/core'
import { readPhoto } from '@neotaxis/intake'
import {
  Bed,
  BedCamera,
  hungOver,
  Machine,
  type Optics,
  plateWithDots,
  rays,
  serveCamera,
  serveCameraPanel,
  servePanel,
  type Thing,
  TRUTHS,
} from '@neotaxis/stand-ins'
import { afterAll, describe, expect, it } from 'vitest'
import { atPanel } from './testing/at-panel.ts'
import { offEdges } from './testing/off-edges.ts'
import { ran } from './testing/ran.ts'

const folder = mkdtempSync(join(tmpdir(), 'neotaxis-camera-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const at = (name: string): string => join(folder, name)

/** So wide are the photos: the camera's own size in campaigns. */
const LONG = Boolean(process.env.NEOTAXIS_CAMPAIGN)
const PHOTO = LONG ? 2592 : 1296

const BED = { x: 600, y: 400 }
/** The board on a plate of a thickness, its first dot at 30, 20. */
const boardOn = (thicknessMm: number) =>
  plateWithDots({ widthMm: BED.x, heightMm: BED.y, thicknessMm }, [30, 20], boardDots(BED_BOARD))

/** How far places of the bed are told wrong, over all that a photo shows, mm: sorted. */
function offBy(optics: Optics, file: string, heightMm: number): number[] {
  const { camera } = readCameraFile(readFileSync(file, 'utf8'))
  const { place } = sightOf(camera)
  const mesh = 24
  const { columns, ways } = rays(optics, camera.widthPx, camera.heightPx, mesh)
  const off: number[] = []
  for (let i = 0; i < ways.length; i += 2) {
    const fall = optics.highMm - heightMm
    const [x, y] = [optics.over[0] + ways[i] * fall, optics.over[1] + ways[i + 1] * fall]
    if (x < 0 || y < 0 || x > BED.x || y > BED.y) continue
    const k = i / 2
    const seen = place((k % columns) * mesh, Math.floor(k / columns) * mesh, heightMm)
    off.push(seen ? Math.hypot(seen[0] - x, seen[1] - y) : Infinity)
  }
  return off.sort((a, b) => a - b)
}

describe('camera', () => {
  it.each([['moderate', 3, PHOTO], ...(LONG ? ([['wide', 8, 1296]] as const) : [])] as const)(
    'is calibrated from a board at three heights: places of the bed within 0.15 mm, a %s lens',
    async (kind, seed, photoPx) => {
      const optics = hungOver(BED, kind, seed)
      const camera = new BedCamera(optics, seed)
      camera.shine({ glare: { x: 150, y: 90, widthMm: 60, bright: 0.5 } })
      const photos: string[] = []
      for (const high of [0.2, 12, 25]) {
        camera.lay([boardOn(high)])
        writeFileSync(at(`${kind}-${high}.jpg`), await camera.photo(photoPx))
        photos.push(`${at(`${kind}-${high}.jpg`)}@${high}`)
      }
      const file = at(`${kind}.json`)
      const { code, out, err } = await ran('camera', 'calibrate', ...photos, '--at', '30,20', '-o', file, '--json')
      expect(err).toBe('')
      expect(code).toBe(0)
      const told = JSON.parse(out)
      expect(told).toMatchObject({
        lens: kind === 'wide' ? 'fisheye' : 'brown',
        over: { heightMm: expect.any(Number) },
      })
      expect(Math.abs(told.over.heightMm - optics.highMm)).toBeLessThan(3)
      expect(told.errorMmP95).toBeLessThan(0.15)
      expect(told.errorMmRms).toBeLessThan(told.errorMmMax)
      for (const height of [0, 6, 18]) {
        const off = offBy(optics, file, height)
        expect(off.length).toBeGreaterThan(400)
        expect(off[Math.floor(0.95 * off.length)]).toBeLessThan(0.15)
      }
      // A plate of 12 mm, seen straight from above: each dot where it lies.
      const flat = at(`${kind}-flat.png`)
      expect(
        (
          await ran(
            'camera',
            'rectify',
            photos[1].replace(/@.*/, ''),
            '--calibration',
            file,
            '--thickness-mm',
            '12',
            '--dpi',
            '101.6',
            '-o',
            flat,
          )
        ).code,
      ).toBe(0)
      const { widthPx, heightPx, samples, channels } = decodePng(new Uint8Array(readFileSync(flat)))
      expect([widthPx, heightPx]).toEqual([2400, 1600])
      const light = (x: number, y: number): number =>
        samples[channels * (Math.round(4 * y - 0.5) * widthPx + Math.round(4 * x - 0.5))]
      for (const [c, r] of [
        [2, 2],
        [16, 3],
        [9, 6],
        [3, 10],
        [15, 10],
      ]) {
        const [x, y] = [30 + 30 * c, 20 + 30 * r]
        for (const [dx, dy] of [
          [3.5, 0],
          [-3.5, 0],
          [0, 3.5],
          [0, -3.5],
        ]) {
          expect(light(x + dx, y + dy)).toBeLessThan(90)
          expect(light(x + 1.35 * dx, y + 1.35 * dy)).toBeGreaterThan(110)
        }
      }
    },
    120_000,
  )

  it('is calibrated over a small scan field from a board as small: places within 0.03 mm', async () => {
    const field = { widthMm: 110, heightMm: 110 }
    const optics = hungOver({ x: 110, y: 110 }, 'moderate', 31)
    const camera = new BedCamera(optics, 31)
    const board = boardFor(field)
    const first = firstDot(field, board)
    const views = []
    for (const heightMm of [0.3, 4]) {
      camera.lay([plateWithDots({ ...field, thicknessMm: heightMm }, first, boardDots(board))])
      const spots = boardSpots(lightOf(photoOf(await readPhoto(await camera.photo(PHOTO)))), board)
      views.push({ heightMm, spots: spots.map((spot) => ({ ...spot, x: spot.x + first[0], y: spot.y + first[1] })) })
    }
    const { camera: known, p95Mm } = calibrated({ widthPx: PHOTO, heightPx: 0.75 * PHOTO }, views)
    expect(p95Mm).toBeLessThan(0.02)
    const { place } = sightOf(known)
    const { columns, ways } = rays(optics, PHOTO, 0.75 * PHOTO, 24)
    const off: number[] = []
    for (let i = 0; i < ways.length; i += 2) {
      const fall = optics.highMm - 2
      const [x, y, k] = [optics.over[0] + ways[i] * fall, optics.over[1] + ways[i + 1] * fall, i / 2]
      if (x < 0 || y < 0 || x > 110 || y > 110) continue
      const seen = place((k % columns) * 24, Math.floor(k / columns) * 24, 2)
      off.push(seen ? Math.hypot(seen[0] - x, seen[1] - y) : Number.POSITIVE_INFINITY)
    }
    off.sort((a, b) => a - b)
    expect(off[Math.floor(0.95 * off.length)]).toBeLessThan(0.03)
  })

  it('says what is wrong with a photo, and writes nothing', async () => {
    const camera = new BedCamera(hungOver(BED, 'moderate', 5), 5)
    const take = async (name: string, width = 1296): Promise<string> => {
      writeFileSync(at(name), await camera.photo(width))
      return at(name)
    }
    const said = async (...args: string[]): Promise<string> =>
      (await ran('camera', 'calibrate', ...args, '--at', '30,20', '-o', at('x.json'))).err
    expect(await said(await take('empty.jpg'))).toMatch(/empty.jpg: (There is no board|The three large dots)/)
    camera.lay([boardOn(1)])
    const good = await take('good.jpg')
    expect(await said(good, await take('small.jpg', 648))).toContain('the photos before it')
    for (const [fault, words] of [
      ['dark', 'dark.jpg: The photo is dark'],
      ['covered', 'something is right before the camera'],
    ] as const) {
      camera.fault = fault
      expect(await said(await take(`${fault}.jpg`))).toContain(words)
    }
    writeFileSync(at('page.jpg'), '<html>Sign in</html>')
    expect(await said(at('page.jpg'))).not.toBe('')
    expect((await ran('camera', 'rectify', good, '--calibration', good, '-o', at('x.png'))).err).toContain('no calibration')
    expect((await ran('camera', 'rectify', good, '-o', at('x.png'))).code).toBe(2)
    expect((await ran('camera', 'calibrate', good, '-o', at('x.json'))).code).toBe(2)
    expect((await ran('camera')).code).toBe(2)
    expect(() => readFileSync(at('x.json'))).toThrow()
  })

  it('writes its board as a drawing', async () => {
    expect((await ran('camera', 'board', '-o', at('board.svg'))).code).toBe(0)
    expect(readFileSync(at('board.svg'), 'utf8').match(/<circle/g)).toHaveLength(BED_BOARD.columns * BED_BOARD.rows)
  })
})

describe('any board, blanks and marks', () => {
  const optics = hungOver(BED, 'moderate', 21)
  const camera = new BedCamera(optics, 21)
  const take = async (name: string, things: readonly Thing[], width = 2592): Promise<string> => {
    camera.lay(things)
    writeFileSync(at(name), await camera.photo(width))
    return at(name)
  }
  const dot = (x: number, y: number, mm: number): number[] =>
    Array.from({ length: 72 }, (_, i) => (i % 2 ? y : x) + (mm / 2) * (i % 2 ? Math.sin : Math.cos)((Math.PI * (i >> 1)) / 18))
  const gridOn = (columns: number, rows: number, thicknessMm: number): Thing => ({
    rings: [[5, 5, 595, 5, 595, 395, 5, 395]],
    thicknessMm,
    look: 'paper',
    ink: Array.from({ length: columns * rows }, (_, i) => dot(40 + 20 * (i % columns), 30 + 20 * Math.floor(i / columns), 7)),
  })
  const cross = (x: number, y: number): number[][] => [
    [x - 4, y - 0.4, x - 0.4, y - 0.4, x - 0.4, y - 4, x + 0.4, y - 4, x + 0.4, y - 0.4, x + 4, y - 0.4],
    [x + 4, y - 0.4, x + 4, y + 0.4, x + 0.4, y + 0.4, x + 0.4, y + 4, x - 0.4, y + 4, x - 0.4, y + 0.4],
    [x - 4, y + 0.4, x - 4, y - 0.4, x + 4, y - 0.4, x - 0.4, y + 0.4],
  ]
  const file = at('any.json')

  it('calibrates from a grid of equal dots, and says what is not seen of it', async () => {
    const photos = [
      `${await take('grid-0.jpg', [gridOn(27, 18, 0.3)])}@0.3`,
      `${await take('grid-18.jpg', [gridOn(27, 18, 18)])}@18`,
    ]
    const done = await ran('camera', 'calibrate', ...photos, '--board', '27x18@20', '--at', '40,30', '-o', file, '--json')
    expect(done.err).toBe('')
    expect(JSON.parse(done.out)).toMatchObject({ spots: expect.any(Number), lens: 'brown' })
    for (const height of [0, 6, 20]) {
      const off = offBy(optics, file, height)
      expect(off[Math.floor(0.95 * off.length)]).toBeLessThan(0.15)
    }
    const said = async (...more: string[]): Promise<string> =>
      (await ran('camera', 'calibrate', photos[0], '--at', '40,30', '-o', at('no.json'), ...more)).err
    expect(await said('--board', '28x18@20')).toContain('27 × 18 dots are seen in rows and columns, not a board of 28 × 18')
    expect(await said('--board', '27 by 18')).toContain('written like 19x13@30')
    expect(await said('--turned-deg', '45')).toContain('one of 0, 90')
  })

  it('finds the outlines of what lies there, holes too, with and without the empty bed, and which are alike', async () => {
    const leaf = (x: number, y: number, deg: number): number[] => {
      const [cos, sin] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)]
      const out: number[] = []
      for (let i = 0; i < 160; i++) {
        const a = (2 * Math.PI * i) / 160
        const r = 38 * (1 + 0.25 * Math.cos(2 * a) + 0.1 * Math.sin(3 * a))
        const [u, v] = [1.3 * r * Math.cos(a), r * Math.sin(a)]
        out.push(x + cos * u - sin * v, y + sin * u + cos * v)
      }
      return out
    }
    const things: Thing[] = [
      { rings: [leaf(110, 110, 12), dot(110, 110, 16)], thicknessMm: 8, look: 'driftwood' },
      { rings: [leaf(290, 120, 12)], thicknessMm: 8, look: 'ply' },
      { rings: [leaf(470, 270, 151)], thicknessMm: 8, look: 'ply' },
      { rings: [[60, 250, 200, 262, 194, 332, 54, 320]], thicknessMm: 8, look: 'card' },
    ]
    const empty = await take('empty-bed.jpg', [])
    const photo = await take('blanks.jpg', things)
    const edges = things.flatMap(({ rings }) => rings)
    for (const more of [[], ['--empty', empty]]) {
      const svg = at('blanks.svg')
      const done = await ran('camera', 'blank', photo, '--calibration', file, '--thickness-mm', '8', ...more, '-o', svg, '--json')
      expect(done.err).toBe('')
      const { blanks } = JSON.parse(done.out)
      expect(blanks).toHaveLength(4)
      expect(blanks.filter(({ holes }: { holes: number }) => holes === 1)).toHaveLength(1)
      const sheet = blanks.find(({ kind }: { kind: string }) => kind === 'rect')
      expect(sheet.widthMm).toBeCloseTo(140.5, 0)
      expect(sheet.deg).toBeCloseTo(4.9, 0)
      const alike = blanks.filter(({ like }: { like: number }, i: number) => like !== i)
      expect(alike).toHaveLength(1)
      const turn = alike[0].deg - blanks[alike[0].like].deg
      expect(Math.min(Math.abs(Math.abs(turn) - 139), Math.abs(Math.abs(turn) - 221))).toBeLessThan(0.5)
      const drawing = readSvg(readFileSync(svg, 'utf8'))
      const places = drawing.shapes.flatMap(({ paths }) => paths.map((path) => flattenPath(path, 0.02)))
      const off = places
        .flatMap((ring) => Array.from({ length: ring.length / 2 }, (_, i) => offEdges(edges, ring[2 * i], ring[2 * i + 1])))
        .sort((p, q) => p - q)
      expect(off[Math.floor(0.95 * off.length)]).toBeLessThan(0.3)
    }
    const none = await ran('camera', 'blank', empty, '--calibration', file, '-o', at('none.svg'))
    expect(none.code).toBe(1)
    expect(none.err).toContain('Nothing lies on the bed')
    expect(() => readFileSync(at('none.svg'))).toThrow()
  }, 120_000)

  it('finds printed marks near where they are expected, and how the sheet lies', async () => {
    const marks = [
      [100, 80],
      [400, 80],
      [400, 280],
      [100, 280],
    ]
    // The sheet lies turned by half a degree, and moved.
    const [cos, sin] = [Math.cos(0.5 * (Math.PI / 180)), Math.sin(0.5 * (Math.PI / 180))]
    const lies = marks.map(([x, y]): [number, number] => [3 + cos * x - sin * y, 2 + sin * x + cos * y])
    const ink = lies.flatMap(([x, y], i) => (i < 2 ? cross(x, y) : [dot(x, y, 5)]))
    const photo = await take('marks.jpg', [{ rings: [[60, 50, 480, 50, 480, 330, 60, 330]], thicknessMm: 3, look: 'paper', ink }])
    const wish = ['--calibration', file, '--thickness-mm', '3', '--marks', marks.map((m) => m.join(',')).join(';'), '--json']
    const done = await ran('camera', 'find-marks', photo, ...wish)
    expect(done.err).toBe('')
    const told = JSON.parse(done.out)
    expect(told.found).toBe(4)
    expect(told.deg).toBeCloseTo(0.5, 1)
    expect(told.scale).toBeCloseTo(1, 3)
    expect(told.errorMmMax).toBeLessThan(0.15)
    told.marks.forEach(({ found }: { found: [number, number] }, i: number) => {
      expect(Math.hypot(found[0] - lies[i][0], found[1] - lies[i][1])).toBeLessThan(0.15)
    })
    const far = await ran('camera', 'find-marks', photo, '--calibration', file, '--marks', '250,180')
    expect(far.err).toContain('None of the marks is near')
  })
})

describe.runIf(LONG)('a simulated camera over a simulated machine', () => {
  it('shows what was burned where it was burned: found in the photo within 0.3 mm', async () => {
    const bed = new Bed(BED.x, BED.y, 0.05, 0.12)
    const machine = new Machine(TRUTHS['bench-60'], bed)
    const outside = await servePanel(machine, 0)
    const panel = (outside.address() as AddressInfo).port
    const optics = hungOver(BED, 'moderate', 12)
    const camera = new BedCamera(optics, 12, { panel, deepMm: BED.y, fromFront: true })
    try {
      // Nothing lies there while the board does.
      const views = []
      for (const heightMm of [0.2, 15]) {
        camera.lay([boardOn(heightMm)])
        const marks = boardSpots(lightOf(photoOf(await readPhoto(await camera.photo(2592)))), BED_BOARD)
        views.push({ heightMm, spots: marks.map((mark) => ({ ...mark, x: mark.x + 30, y: mark.y + 20 })) })
      }
      const { camera: known } = calibrated({ widthPx: 2592, heightPx: 1944 }, views)
      camera.lay([])
      await atPanel(panel, { do: 'lay', laid: { material: 'grey-card', thickness: 3, x0: 150, y0: 100, x1: 450, y1: 300 } })
      // A dark square of 40 mm, from 220 to 260 of the bed, 150 to 190 from its rear: rows 0.1 mm apart.
      const lines = ['G21 G90 G54', 'M4 S0']
      for (let k = 0; k <= 400; k++) {
        const y = BED.y - 150 - 0.1 * k
        lines.push(`G0 X220 Y${y.toFixed(3)}`, `G1 X260 Y${y.toFixed(3)} S150 F9000`)
      }
      machine.jog(0, 0, 3, 10)
      while (machine.finishMove());
      for (const line of [...lines, 'M5']) {
        while (!machine.hasRoom) machine.finishMove()
        machine.take(line)
      }
      while (machine.finishMove());
      const photo = photoOf(await readPhoto(await camera.photo(2592)))
      const view = { x: 200, y: 130, pxPerMm: 10, widthPx: 800, heightPx: 800 }
      const flat = lightOf({ widthPx: 800, heightPx: 800, rgba: rectified(photo, known, view, 3) })
      /** Where it turns from light to dark along a way, mm of the bed. */
      const edge = (from: number, step: number, at: (t: number) => number): number => {
        const [light, dark] = [at(from), at(from + 8 * step)]
        expect(light - dark).toBeGreaterThan(25)
        for (let t = from; ; t += step / 20) if (at(t) < (light + dark) / 2) return t
      }
      const mean = (x: number, y: number, down: boolean): number => {
        let sum = 0
        for (let k = -40; k <= 40; k++) {
          const [px, py] = [Math.round((x - 200) * 10) + (down ? 0 : k), Math.round((y - 130) * 10) + (down ? k : 0)]
          sum += flat.samples[py * 800 + px] / 81
        }
        return sum
      }
      expect(Math.abs(edge(216, 1, (x) => mean(x, 170, true)) - 220)).toBeLessThan(0.3)
      expect(Math.abs(edge(264, -1, (x) => mean(x, 170, true)) - 260)).toBeLessThan(0.3)
      expect(Math.abs(edge(146, 1, (y) => mean(240, y, false)) - 150)).toBeLessThan(0.3)
      expect(Math.abs(edge(194, -1, (y) => mean(240, y, false)) - 190)).toBeLessThan(0.3)
    } finally {
      outside.close()
    }
  }, 120_000)
})

describe('a simulated camera', () => {
  it('answers with photos over HTTP, and fails as it is told to', async () => {
    const camera = new BedCamera(hungOver(BED, 'moderate', 2), 2)
    const server = await serveCamera(camera, 0)
    const panel = await serveCameraPanel(camera, 0)
    const port = (of: { address(): unknown }): number => (of.address() as AddressInfo).port
    const ask = (what: object): Promise<string> => atPanel(port(panel), what)
    const url = `http://127.0.0.1:${port(server)}/photo.jpg?width=648`
    try {
      const photo = await fetch(url)
      expect(photo.headers.get('content-type')).toBe('image/jpeg')
      const first = new Uint8Array(await photo.arrayBuffer())
      expect([...first.subarray(0, 2)]).toEqual([0xff, 0xd8])
      expect(await ask({ do: 'lay', things: [boardOn(3)] })).toContain('true')
      expect(new Uint8Array(await (await fetch(url)).arrayBuffer())).not.toEqual(first)
      expect((await fetch(url.replace('648', '649'))).status).toBe(404)
      expect(await ask({ do: 'fail', how: 'sleep' })).toContain('false')
      expect(await ask({ do: 'fail', how: 'page' })).toContain('true')
      expect((await fetch(url)).headers.get('content-type')).toBe('text/html')
      await ask({ do: 'fail', how: 'away' })
      await expect(fetch(url)).rejects.toThrow()
    } finally {
      server.close()
      server.closeAllConnections()
      panel.close()
    }
  })
})
