import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { encodePng, mainPiece, packJob } from '@neotaxis/core'
import { squarePicture } from '@neotaxis/core/testing/sample-job'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { loadJob } from './jobs.ts'
import { ran } from './testing/ran.ts'

const folder = mkdtempSync(join(tmpdir(), 'neotaxis-face-'))
const at = (name: string): string => join(folder, name)

/** A frame of 120 mm that is cut out of a piece of 200 × 160 mm. */
async function flatJob(name: string): Promise<void> {
  const args = ['--workpiece', '200x160', '--proposal', 'cut-shape', '--size', '120x']
  expect((await ran('propose', at('square.png'), ...args, '-o', at(name))).code).toBe(0)
}

const face = (...args: readonly string[]) => ran('face', ...args)
const jsonOf = ({ out, err }: { readonly out: string; readonly err: string }) => {
  expect(err).toBe('')
  return JSON.parse(out)
}
const faceIn = (name: string) => mainPiece(loadJob(at(name)).job)
const program = async (name: string): Promise<string> => {
  expect((await ran('plan', at(name), '-o', at('a.gcode'))).code).toBe(0)
  return readFileSync(at('a.gcode'), 'utf8')
}

beforeAll(async () => {
  const { samples } = squarePicture(100, 20)
  writeFileSync(
    at('square.png'),
    encodePng({ widthPx: 100, heightPx: 100, channels: 1, samples: samples as Uint8Array, full: 255 }),
  )
  await flatJob('flat.neotaxis')
  // The same where a hand sets the lens.
  const { job, assets } = loadJob(at('flat.neotaxis'))
  const { x, y } = job.machine.axes
  const packed = packJob({ ...job, machine: { ...job.machine, axes: { x, y } } }, (asset) => assets.get(asset)!)
  writeFileSync(at('fixed.neotaxis'), Buffer.concat([packed].flat()))
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))

describe('the face of a job from the command line', () => {
  it('is curved by its crown: the lens follows it, and the program moves it', async () => {
    const made = jsonOf(
      await face(at('flat.neotaxis'), '--crown', '8', '--thickness', '20', '--follow', '-o', at('hull.neotaxis'), '--json'),
    )
    expect(made).toMatchObject({
      crownMm: expect.closeTo(8, 6),
      radiusMm: expect.closeTo(100 ** 2 / 16 + 4, 6),
      foci: [],
      stops: [],
    })
    expect(faceIn('hull.neotaxis').surface).toMatchObject({ kind: 'flat', arch: { across: 'x' }, follows: true })
    expect(await program('flat.neotaxis')).not.toMatch(/^G1.*Z/m)
    expect(await program('hull.neotaxis')).toMatch(/^G1.*Z/m)
    // Flat again, it is as it was.
    jsonOf(await face(at('hull.neotaxis'), '--flat', '--thickness', '3', '-o', at('again.neotaxis'), '--json'))
    expect(await program('again.neotaxis')).toBe(await program('flat.neotaxis'))
  })

  it('is burned in strips where a hand sets the lens: so many foci, so many pauses', async () => {
    const made = jsonOf(
      await face(
        at('fixed.neotaxis'),
        '--radius',
        '120',
        '--thickness',
        '60',
        '--across',
        'y',
        '--strips',
        '-o',
        at('s.neotaxis'),
        '--json',
      ),
    )
    expect(made.foci.length).toBeGreaterThan(2)
    expect(made.foci[0]).toBeGreaterThan(0)
    expect(faceIn('s.neotaxis').surface).toMatchObject({ arch: { across: 'y', radiusMm: 120 }, strips: true })
    const text = await program('s.neotaxis')
    // The first is set before the start; what is cut reaches two more.
    expect(text.match(/Set the focus [\d.]+ mm over the bed/g)).toEqual(
      made.foci.slice(1, 3).map((mm: number) => `Set the focus ${60 - mm} mm over the bed`),
    )
    expect(text.match(/^M0/gm)).toHaveLength(2)
    expect((await face(at('fixed.neotaxis'), '--radius', '120', '--strips', '-o', at('s.neotaxis'))).err).toContain(
      'burned in strips',
    )
  })

  it('is uneven as it was measured: numbers as a table writes them, with no piece where a field is empty', async () => {
    writeFileSync(at('heights.csv'), '\ufeff10,5;10,2;9,8\r\n10,0;;9,1\r\n')
    const args = ['--heights', at('heights.csv'), '--follow', '-o', at('slab.neotaxis')]
    const made = jsonOf(await face(at('flat.neotaxis'), ...args, '--json'))
    expect(made).toMatchObject({ thicknessMm: 10.5, columns: 3, rows: 2, lowestMm: -1.4, stops: [] })
    expect(faceIn('slab.neotaxis')).toMatchObject({
      thicknessMm: 10.5,
      surface: { heights: { mm: [0, -0.3, -0.7, -0.5, -0.3, -1.4] } },
    })
    expect(await program('slab.neotaxis')).toMatch(/^G1.*Z/m)
  })

  it.each([
    [['--crown', '8'], 2, 'say where the job goes'],
    [['-o', 'x'], 2, 'say how its face is'],
    [['--crown', '8', '--flat', '-o', 'x'], 2, 'say how its face is'],
    [['--crown', '120', '-o', 'x'], 2, 'up to 100 mm over 200 mm'],
    [['--radius', '50', '-o', 'x'], 2, 'from 100 to 50000 mm'],
    [['--crown', '8', '--across', 'up', '-o', 'x'], 2, 'x, y'],
    [['--crown', '8', '--strips', '--follow', '-o', 'x'], 2, 'not both'],
    [['--crown', '8', '--thickness', '900', '-o', 'x'], 2, 'from 0.05 to 200 mm'],
    [['--heights', 'x.csv', '--thickness', '9', '-o', 'x'], 1, 'cannot be read'],
    [['--flat', '--follow', '-o', 'x'], 2, 'curved or uneven'],
    [['--flat', '--strips', '-o', 'x'], 2, 'is curved'],
    [['--crown', '8', '--strips', '-o', 'x'], 1, 'moves its lens'],
    [['--heights', 'none.csv', '-o', 'x'], 1, 'cannot be read'],
  ] as const)('is refused with a sentence: %s', async (args, code, words) => {
    const [out] = args.slice(-1)
    const told = await face(at('flat.neotaxis'), ...args.slice(0, -1), out === 'x' ? at('x.neotaxis') : out)
    expect([told.code, told.err]).toEqual([code, expect.stringContaining(words)])
    expect(existsSync(at('x.neotaxis'))).toBe(false)
  })

  it('is not followed by a lens that does not move, and not given to what turns', async () => {
    const still = await face(at('fixed.neotaxis'), '--crown', '8', '--follow', '-o', at('x.neotaxis'))
    expect([still.code, still.err]).toEqual([1, expect.stringContaining('--strips')])
    await ran('rotary', at('flat.neotaxis'), '--diameter', '60', '-o', at('cup.neotaxis'))
    expect((await face(at('cup.neotaxis'), '--crown', '8', '-o', at('x.neotaxis'))).err).toContain('round already')
  })
})
