import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import {
  checkFindings,
  decodePng,
  encodePng,
  faceSize,
  flattenPath,
  greyFromPng,
  mainPiece,
  materialOf,
  measureJob,
  NO_TREATMENT,
  PLAIN_DOTS,
  prepareMarks,
  propose,
  ResultCache,
  readSvg,
  ringArea,
  ringBounds,
  type Supply,
  unpackJob,
  wholeFrame,
  withOperation,
  writeProgram,
} from '@neotaxis/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { readCatalogue } from './catalogue.ts'
import { main } from './main.ts'

let folder: string
let disc: string

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'neotaxis-cli-'))
  disc = join(folder, 'buoy.png')
  const samples = Uint8Array.from({ length: 200 * 100 }, (_, i) =>
    Math.hypot((i % 200) - 60, Math.floor(i / 200) - 50) < 35 ? 20 : 250,
  )
  writeFileSync(disc, encodePng({ widthPx: 200, heightPx: 100, channels: 1, samples, full: 255 }, { pixelsPerMm: 10 }))
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))

async function run(...args: string[]): Promise<{ code: number; out: string; err: string }> {
  let out = ''
  let err = ''
  const code = await main(args, {
    out: (text) => {
      out += text
    },
    err: (text) => {
      err += text
    },
  })
  return { code, out, err }
}
const at = (name: string): string => join(folder, name)

describe('convert', () => {
  it('turns drawings from SVG to DXF and back, by the ending, and tells what they are', async () => {
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="40mm" viewBox="0 0 60 40"><g id="deck"><circle cx="30" cy="20" r="10" fill="none" stroke="#c00"/></g><image href="x.png" width="3" height="3"/></svg>'
    writeFileSync(at('deck.svg'), svg)
    const there = await run('convert', at('deck.svg'), '-o', at('deck.dxf'), '--json')
    expect(there.code).toBe(0)
    expect(JSON.parse(there.out)).toMatchObject({ shapes: 1, layers: ['deck'] })
    expect(JSON.parse(there.out).widthMm).toBeCloseTo(20, 3)
    expect(there.err).toContain('nothing is fetched')
    expect((await run('convert', at('deck.dxf'), '-o', at('back.svg'))).code).toBe(0)
    const [back] = readSvg(readFileSync(at('back.svg'), 'utf8')).paths
    // A circle of four curves is within 1 in 3000 of its radius.
    expect(Math.abs(ringArea(flattenPath(back, 0.001)))).toBeCloseTo(Math.PI * 100, 0)
    expect((await run('convert', at('deck.svg'), '-o', at('deck.png'))).code).toBe(2)
    const around = await run('offset', at('deck.dxf'), '--distance-mm', '2', '--json')
    expect(JSON.parse(around.out).lengthMm).toBeCloseTo(2 * Math.PI * 12, 0)
    writeFileSync(at('no.dxf'), '0\nSECTION\n2\nENTITIES\n0\nENDSEC\n0\nEOF\n')
    expect(await run('convert', at('no.dxf'), '--json')).toMatchObject({
      code: 1,
      err: expect.stringContaining('nothing to cut'),
    })
  })
})

describe('trace', () => {
  it('writes outlines in real mm, at the size the file tells or the one that is asked for', async () => {
    const { code, out } = await run('trace', disc, '-o', at('a.svg'), '--json')
    expect(code).toBe(0)
    expect(JSON.parse(out)).toMatchObject({ paths: 1 })
    expect(JSON.parse(out).lengthMm).toBeCloseTo(2 * Math.PI * 3.5, 0)
    const svg = readSvg(readFileSync(at('a.svg'), 'utf8'))
    expect(svg).toMatchObject({ page: { x1: 20, y1: 10 } })
    const box = ringBounds(flattenPath(svg.paths[0], 0.001))
    expect((box.x0 + box.x1) / 2).toBeCloseTo(6.05, 1)
    const wide = await run('trace', disc, '--width-mm', '2in')
    expect(readSvg(wide.out).page.x1).toBeCloseTo(50.8, 3)
  })

  it('parts a picture by its colours: a shape each, paper left out, and no gap between them', async () => {
    const side = 60
    const samples = new Uint8Array(3 * side * side).fill(250)
    for (let y = 15; y < 45; y++)
      for (let x = 10; x < 50; x++) samples.set(x < 30 ? [200, 30, 30] : [30, 40, 160], 3 * (y * side + x))
    writeFileSync(
      at('flags.png'),
      encodePng({ widthPx: side, heightPx: side, channels: 3, samples, full: 255 }, { pixelsPerMm: 2 }),
    )
    const { code, out } = await run('trace', at('flags.png'), '--colours', '3', '-o', at('flags.svg'), '--json')
    expect(code).toBe(0)
    expect(JSON.parse(out).colours).toMatchObject([
      { colour: '#fafafa', paper: true },
      { paper: false, paths: 1 },
      { paper: false, paths: 1 },
    ])
    const { shapes, paths } = readSvg(readFileSync(at('flags.svg'), 'utf8'))
    expect(shapes.map(({ look }) => look.fill).sort()).toEqual(['#1e28a0', '#c81e1e'])
    expect(paths.reduce((sum, path) => sum + Math.abs(ringArea(flattenPath(path, 0.001))), 0)).toBeCloseTo((40 * 30) / 4, -1)
    expect((await run('trace', at('flags.png'), '--colours', '3', '--threshold', '0.4')).code).toBe(2)
  })

  it('cleans up by steps from a file, and says what each did', async () => {
    writeFileSync(
      at('steps.json'),
      JSON.stringify([
        { kind: 'specks', areaMm2: 1000 },
        { kind: 'simplify', toleranceMm: 0.05, on: false },
      ]),
    )
    const { code, out } = await run('trace', disc, '--steps', at('steps.json'), '--json')
    expect(code).toBe(0)
    expect(JSON.parse(out)).toMatchObject({ paths: 0, steps: [{ removed: 1 }, null] })
    writeFileSync(at('bad.json'), JSON.stringify([{ kind: 'polish' }]))
    const bad = await run('trace', disc, '--steps', at('bad.json'))
    expect([bad.code, bad.err]).toEqual([1, expect.stringContaining('do not hold together')])
  })

  it('finds the line in the middle of a stroke', async () => {
    // A ring of ink, 6 px wide, its middle 40 px from the centre, on 10 × 10 mm.
    const samples = Uint8Array.from({ length: 10_000 }, (_, i) => {
      const off = Math.abs(Math.hypot((i % 100) + 0.5 - 50, Math.floor(i / 100) + 0.5 - 50) - 40)
      return Math.round(255 * Math.min(1, Math.max(0, off - 2.5)))
    })
    writeFileSync(at('ring.png'), encodePng({ widthPx: 100, heightPx: 100, channels: 1, samples, full: 255 }))
    const { out, code } = await run(
      'trace',
      at('ring.png'),
      '--mode',
      'centreline',
      '--width-mm',
      '10',
      '-o',
      at('ring.svg'),
      '--json',
    )
    expect(code).toBe(0)
    const told = JSON.parse(out)
    expect(told.paths).toBe(1)
    expect(told.lengthMm).toBeCloseTo(2 * Math.PI * 4, 0)
    expect(told.smallestMm).toBeCloseTo(0.6, 1)
    const [path] = readSvg(readFileSync(at('ring.svg'), 'utf8')).paths
    expect(path.closed).toBe(true)
    expect((await run('trace', at('ring.png'), '--mode', 'centreline', '--smooth-mm', '1')).err).toContain('for outlines')
  })

  it('takes a band of tones and smooths', async () => {
    const whole = JSON.parse((await run('trace', disc, '--json')).out)
    const band = JSON.parse(
      (await run('trace', disc, '--threshold', '0.5', '--above', '0.3', '--min-area-mm2', '5', '--json')).out,
    )
    expect(band.paths).toBe(0)
    const smooth = JSON.parse((await run('trace', disc, '--smooth-mm', '0.2', '--json')).out)
    expect(Math.abs(smooth.lengthMm / whole.lengthMm - 1)).toBeLessThan(0.03)
    expect((await run('trace', disc, '--above', '0.6')).code).toBe(2)
  })

  it('takes a zone, drops specks, and keeps its place on the page', async () => {
    const { out } = await run('trace', disc, '--zone', '0,0,60,100', '--json')
    expect(JSON.parse(out).lengthMm).toBeCloseTo(Math.PI * 3.5 + 7, 0)
    expect(JSON.parse((await run('trace', disc, '--min-area-mm2', '1000', '--json')).out).paths).toBe(0)
  })
})

describe('picture', () => {
  it('makes the dots that the application makes, with their pitch in the file', async () => {
    const { code, out } = await run('picture', disc, '--width-mm', '20', '--interval-mm', '0.2', '-o', at('dots.png'), '--json')
    expect(code).toBe(0)
    const told = JSON.parse(out)
    expect(told).toMatchObject({ widthPx: 100, heightPx: 50, widthMm: 20, heightMm: 10, intervalMm: 0.2 })
    const made = decodePng(readFileSync(at('dots.png')))
    expect(made.pixelsPerMm).toBeCloseTo(5, 3)
    const { levels, meanTone } = prepareMarks(wholeFrame(greyFromPng(readFileSync(disc))), NO_TREATMENT, PLAIN_DOTS, 100, 50, {
      pitchMm: 0.2,
    })
    expect([...made.samples]).toEqual([...levels].map((v) => 255 - v))
    expect(told.meanTone).toBeCloseTo(meanTone, 12)
    expect(Math.abs(told.meanTone - told.wantedTone)).toBeLessThan(0.01)
  })

  it('knows levels, inversion, crops and kernels', async () => {
    const all = JSON.parse(
      (await run('picture', disc, '--invert', '--levels', '30,200,1', '--dither', 'threshold', '--json')).out,
    )
    expect(all.coverage).toBeGreaterThan(0.75)
    const part = JSON.parse((await run('picture', disc, '--crop', '100,0,100,100', '--levels', '0,240,1', '--json')).out)
    expect(part.coverage).toBe(0)
  })
})

describe('draw', () => {
  const json = async (...args: string[]) => {
    const { code, out, err } = await run('draw', ...args, '--json')
    return { code, err, ...(out ? JSON.parse(out) : {}) }
  }

  it('writes a text in strokes or in outlines, for every entry of a table', async () => {
    const to = join(folder, 'text.svg')
    const one = await json('--text', 'Tern', '--cap-mm', '10', '-o', to)
    expect(one.code).toBe(0)
    expect(readSvg(readFileSync(to, 'utf8')).shapes[0].look.stroke).toBe('#000000')
    const table = join(folder, 'boats.csv')
    writeFileSync(table, 'boat;berth\nTern;N 1\nEider;N 2\n')
    const all = await json(
      '--text',
      'x',
      '--series',
      table,
      '--column',
      'boat',
      '--pitch-mm',
      '80,20',
      '--columns',
      '2',
      '-o',
      to,
    )
    expect(all.widthMm).toBeGreaterThan(80)
    const slab = await json('--text', 'Tern', '--font', 'slab', '-o', to)
    expect(slab.heightMm).toBeCloseTo(8, 0)
    expect(readSvg(readFileSync(to, 'utf8')).shapes[0].look.fill).toBe('#000000')
    const boxed = await json('--text', 'Low water by the old sluice at Northgate', '--box-mm', '60,22', '-o', to)
    expect(boxed.widthMm).toBeLessThan(60.5)
    expect(boxed.heightMm).toBeLessThan(24)
    expect(boxed.notices).toEqual([expect.stringMatching(/so that it fits its box/)])
    expect((await json('--text', 'Tern', '--box-mm', '60', '-o', to)).code).toBe(2)
    expect((await json('--text', 'Tern', '--box-mm', '60,9', '--circle-mm', '50', '-o', to)).code).toBe(2)
  })

  it('draws a shape by the numbers of a file, and says what is wrong with them', async () => {
    const numbers = join(folder, 'star.json')
    const to = join(folder, 'star.svg')
    writeFileSync(numbers, JSON.stringify({ kind: 'star', points: 5, diameterMm: 40, innerShare: 0.5 }))
    expect((await json(numbers, '-o', to)).paths).toBe(1)
    writeFileSync(numbers, JSON.stringify({ kind: 'star', points: 1, diameterMm: 40, innerShare: 0.5 }))
    expect(await json(numbers, '-o', to)).toMatchObject({ code: 1, err: expect.stringContaining('points') })
    expect((await json('--text', 'a', numbers, '-o', to)).code).toBe(2)
    expect((await json('--text', 'a', '--font', 'none', '-o', to)).code).toBe(2)
    expect(await json('--text', 'a long text on a small circle', '--circle-mm', '9', '-o', to)).toMatchObject({ code: 1 })
  })
})

describe('offset', () => {
  it('grows outlines by a distance, also negative', async () => {
    await run('trace', disc, '-o', at('b.svg'))
    const grown = JSON.parse((await run('offset', at('b.svg'), '--distance-mm', '2', '-o', at('c.svg'), '--json')).out)
    expect(grown.lengthMm).toBeCloseTo(2 * Math.PI * 5.5, 0)
    const shrunk = JSON.parse((await run('offset', at('b.svg'), '--distance-mm', '-1mm', '--json')).out)
    expect(shrunk.lengthMm).toBeCloseTo(2 * Math.PI * 2.5, 0)
    expect(JSON.parse((await run('offset', at('b.svg'), '--distance-mm', '-9', '--json')).out).paths).toBe(0)
  })
})

describe('combine', () => {
  const square = (x: number, side: number): string =>
    `<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="20mm" viewBox="0 0 40 20"><rect x="${x}" y="2" width="${side}" height="${side}"/></svg>`

  it('unites, subtracts, intersects and excludes, by area', async () => {
    writeFileSync(at('one.svg'), square(2, 10))
    writeFileSync(at('two.svg'), square(7, 10))
    const area = async (op: string): Promise<number> => {
      const { out } = await run('combine', at('one.svg'), at('two.svg'), '--op', op)
      return readSvg(out).paths.reduce((sum, path) => sum + ringArea(flattenPath(path, 0.001)), 0)
    }
    expect(await area('union')).toBeCloseTo(150, 2)
    expect(await area('subtract')).toBeCloseTo(50, 2)
    expect(await area('intersect')).toBeCloseTo(50, 2)
    expect(await area('exclude')).toBeCloseTo(100, 2)
    const told = JSON.parse((await run('combine', at('one.svg'), at('two.svg'), '--op', 'union', '--json')).out)
    expect(told).toMatchObject({ paths: 1, lengthMm: 50 })
  })

  it('says what is missing', async () => {
    expect((await run('combine', at('one.svg'), at('two.svg'))).err).toContain('--op union')
    writeFileSync(at('line.svg'), '<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0L5 5"/></svg>')
    expect((await run('combine', at('one.svg'), at('line.svg'), '--op', 'union')).err).toContain('no closed outline')
  })
})

describe('propose, plan, check', () => {
  it('make the same job, program, times and findings as the core', async () => {
    const listed = await run('propose', disc, '--workpiece', '100x80', '--list', '--json')
    const ids = JSON.parse(listed.out).proposals.map(({ id }: { id: string }) => id)
    expect(ids).toEqual(['engrave', 'engrave-cut-around', 'cut-shape', 'fill-shape', 'engrave-cut-elsewhere'])
    const made = await run(
      'propose',
      disc,
      '--workpiece',
      '100x80',
      '--size',
      '30x',
      '--proposal',
      ids[1],
      '-o',
      at('job.neotaxis'),
      '--json',
    )
    expect(made.code).toBe(0)
    const { job, assets } = unpackJob(readFileSync(at('job.neotaxis')))
    const picture = greyFromPng([...assets.values()][0])
    const supply: Supply = { cache: new ResultCache(), picture: () => picture }
    const facts = {
      name: 'buoy.png',
      asset: [...assets.keys()][0],
      widthPx: 200,
      heightPx: 100,
      hasAlpha: false,
      pixelsPerMm: 10,
    }
    const settings = {
      workpiece: { ...faceSize(mainPiece(job)), thicknessMm: mainPiece(job).thicknessMm },
      material: materialOf(job),
      machine: job.machine,
      size: { widthMm: 30 },
    }
    expect(propose(facts, picture, settings, supply)[1].job).toEqual(job)

    const planned = await run('plan', at('job.neotaxis'), '-o', at('job.gcode'), '--json')
    const report = measureJob(job, supply)
    expect(planned.code).toBe(0)
    expect(JSON.parse(planned.out).seconds).toBeCloseTo(report.seconds, 9)
    expect(JSON.parse(planned.out).bounds).toEqual(report.bounds)
    const parts: Uint8Array[] = []
    writeProgram(job, supply, (bytes) => parts.push(bytes.slice()))
    expect(readFileSync(at('job.gcode')).equals(Buffer.concat(parts))).toBe(true)
    expect(JSON.parse((await run('plan', at('job.neotaxis'), '--only', 'cut', '--json')).out).operations).toHaveLength(1)
    expect(JSON.parse((await run('check', at('job.neotaxis'), '--json')).out).findings).toEqual([])
  })

  it('read a job.json beside its assets, and tell a job that cannot run by exit code 3', async () => {
    const { job, assets } = unpackJob(readFileSync(at('job.neotaxis')))
    mkdirSync(at('assets'), { recursive: true })
    for (const [name, bytes] of assets) writeFileSync(at(`assets/${name}.png`), bytes)
    const fast = withOperation(job, 'cut', { speedMmS: 900 })
    writeFileSync(at('job.json'), JSON.stringify(fast))
    const { code, out } = await run('check', at('job.json'), '--json')
    expect(code).toBe(3)
    const picture = greyFromPng([...assets.values()][0])
    const found = checkFindings(fast, { cache: new ResultCache(), picture: () => picture })
    expect(JSON.parse(out).findings[0]).toMatchObject({ kind: 'beyond-machine', severity: 'stop', message: found[0].message })
    expect((await run('check', at('job.json'), '--only', 'low-resolution')).out).toBe('nothing found\n')
    expect((await run('plan', at('job.json'), '--json')).code).toBe(3)
  })
})

describe('catalogue', () => {
  it('lists what ships', async () => {
    const { out } = await run('catalogue', 'list', '--json')
    expect(JSON.parse(out).materials.map(({ id }: { id: string }) => id)).toContain('birch-ply-3')
  })

  it('reads one that an older version exported, and says so where it is none', async () => {
    const { materials, machines } = readCatalogue(undefined)
    const [{ layers, ...material }] = materials
    const recipes = material.recipes.map(({ evidence: _, ...recipe }) => ({ ...recipe, proof: { kind: 'guessed' } }))
    const older = { materials: [{ ...material, ...layers[0], name: material.name, recipes }], machines }
    writeFileSync(at('older.json'), JSON.stringify(older))
    const { out } = await run('catalogue', 'list', '--json', '--catalogue', at('older.json'))
    expect(JSON.parse(out).materials).toEqual([{ id: 'birch-ply-3', name: 'Birch ply', thicknessMm: 3, proven: 0, recipes: 4 }])
    writeFileSync(at('none.json'), JSON.stringify({ materials: [{ ...older.materials[0], cutDose: 'much' }], machines }))
    const none = await run('catalogue', 'list', '--catalogue', at('none.json'))
    expect(none.code).not.toBe(0)
    expect(none.err).toContain('is no catalogue')
  })
})

describe('offset in steps, and outlines parted by lines', () => {
  it('give an edge for each step and side, and a piece for each part', async () => {
    const plate = at('plate.svg')
    const line = at('line.svg')
    const svg = (inside: string): string =>
      `<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="40mm" viewBox="0 0 60 40"><g fill="none" stroke="#000">${inside}</g></svg>`
    writeFileSync(plate, svg('<rect x="10" y="10" width="40" height="20"/>'))
    writeFileSync(line, svg('<path d="M30 0V40"/>'))
    const count = async (...args: string[]): Promise<number> =>
      JSON.parse((await run(...args, '--json', '-o', at('made.svg'))).out).paths
    expect(await count('offset', plate, '--distance-mm', '2', '--steps', '3')).toBe(3)
    expect(await count('offset', plate, '--distance-mm', '2', '--both')).toBe(2)
    expect(await count('combine', plate, line, '--op', 'split')).toBe(2)
  })
})

describe('wrong usage and bad input', () => {
  it.each([
    [['fly'], 2, 'There is no verb “fly”'],
    [['trace'], 2, 'it wants one picture file'],
    [['trace', 'DISC', '--speed', '3'], 2, 'there is no option --speed'],
    [['camera', 'simulate', '--bed', '0,0'], 2, '--bed goes from 50 to 3000 mm'],
    [['trace', 'DISC', '--threshold', '7'], 2, '--threshold goes from 0 to 1'],
    [['trace', 'DISC', '--dpi', '100', '--width-mm', '3'], 2, 'give one'],
    [['trace', 'missing.png'], 1, 'missing.png cannot be read'],
    [['picture', 'DISC', '--crop', '0,0,900,10'], 1, 'The crop lies outside the picture of 200 × 100 px'],
    [['picture', 'DISC', '--width-mm', '90000', '--interval-mm', '0.02'], 1, 'more than can be prepared'],
    [['picture', 'DISC', '--dither', 'glitter'], 2, '--dither is one of'],
    [['offset', 'DISC', '--distance-mm', '2'], 1, 'SVG'],
    [['offset', 'DISC'], 2, '--distance-mm is missing'],
    [['propose', 'DISC', '--proposal', 'fly', '-o', 'x'], 1, 'There is no proposal “fly”'],
    [['propose', 'DISC', '--workpiece', '3', '--list'], 2, 'written like 300x200'],
    [['plan', 'DISC'], 1, 'neither a .neotaxis file nor a job.json'],
  ])('%j is exit %i with one line', async (args, code, sentence) => {
    const before = readdirSync(folder)
    const told = await run(...args.map((arg) => (arg === 'DISC' ? disc : arg)))
    expect(told.code).toBe(code)
    expect(told.err).toContain(sentence)
    expect(told.out).toBe('')
    expect(told.err).not.toMatch(/\n {4}at /)
    expect(readdirSync(folder)).toEqual(before)
  })

  it('writes an output whole or not at all', async () => {
    expect((await run('trace', disc, '-o', at('no/such/folder.svg'))).err).toContain('does not exist')
    expect(existsSync(at('no'))).toBe(false)
  })
})

describe('what a verb takes', () => {
  it('is told for each, every option in words', async () => {
    const asked = await run('--help')
    const verbs = [...asked.err.matchAll(/^ {2}([a-z]+) /gm)].map(([, verb]) => [verb])
    expect(verbs.length).toBeGreaterThan(18)
    const deeds = ['board', 'calibrate', 'rectify', 'blank', 'find-marks', 'slot', 'simulate'].map((deed) => ['camera', deed])
    for (const said of [...verbs, ...deeds]) {
      const { code, out } = await run(...said, '--help')
      expect(code, said.join(' ')).toBe(0)
      expect(out).toContain(`usage: neotaxis ${said.join(' ')}`)
      expect(out, said.join(' ')).not.toContain('undefined')
    }
  })

  it('is told in one sentence where an option is wrong', async () => {
    expect(await run('fit', 'a.svg', 'b.svg', '--margins', '3')).toMatchObject({
      code: 2,
      err: 'neotaxis fit: there is no option --margins: --help lists them.\n',
    })
    expect((await run('fit', 'a.svg', 'b.svg', '--margin-mm')).err).toBe('neotaxis fit: --margin-mm wants a value.\n')
    expect((await run('trace', 'a.png', '--ink=3')).err).toBe('neotaxis trace: --ink takes no value.\n')
  })
})
