// The bed camera from the command line, against photos of a simulated one whose lens nobody here knows.
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { type AddressInfo, connect } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import {
  BED_BOARD,
  boardDots,
  boardSpots,
  calibrated,
  decodePng,
  lightOf,
  photoOf,
  readCameraFile,
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
  TRUTHS,
} from '@neotaxis/stand-ins'
import { afterAll, describe, expect, it } from 'vitest'
import { ran } from './testing/ran.ts'

const folder = mkdtempSync(join(tmpdir(), 'neotaxis-camera-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const at = (name: string): string => join(folder, name)

const BED = { x: 600, y: 400 }
/** The board on a plate of a thickness, its first dot at 30, 20. */
const boardOn = (thicknessMm: number) =>
  plateWithDots({ widthMm: BED.x, heightMm: BED.y, thicknessMm }, [30, 20], boardDots(BED_BOARD))

/** What the outside of a stand-in answers. */
const asked = (port: number, what: object): Promise<string> =>
  new Promise((resolve, reject) => {
    const socket = connect(port, '127.0.0.1', () => socket.write(`${JSON.stringify(what)}\n`))
    socket.once('data', (data) => {
      socket.destroy()
      resolve(data.toString())
    })
    socket.once('error', reject)
  })

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
  it.each([
    ['moderate', 3, 2592],
    ['wide', 8, 1296],
  ] as const)(
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
      expect(told.p95Mm).toBeLessThan(0.15)
      for (const height of [0, 6, 18]) {
        const off = offBy(optics, file, height)
        expect(off.length).toBeGreaterThan(400)
        expect(off[Math.floor(0.95 * off.length)]).toBeLessThan(0.15)
      }
      // A plate of 12 mm, seen straight from above: each dot where it lies.
      const flat = at(`${kind}-flat.png`)
      expect(
        (await ran('camera', 'rectify', photos[1].replace(/@.*/, ''), '--camera', file, '--height-mm', '12', '-o', flat)).code,
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
    expect((await ran('camera', 'rectify', good, '--camera', good, '-o', at('x.png'))).err).toContain('no calibration')
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

describe('a simulated camera over a simulated machine', () => {
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
      await asked(panel, { do: 'lay', laid: { material: 'grey-card', thickness: 3, x0: 150, y0: 100, x1: 450, y1: 300 } })
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
    const ask = (what: object): Promise<string> => asked(port(panel), what)
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
