import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { burnOrder, encodePng } from '@neotaxis/core'
import { afterAll, describe, expect, it } from 'vitest'
import { loadJob } from './jobs.ts'
import { ran } from './testing/ran.ts'

const folder = mkdtempSync(join(tmpdir(), 'neotaxis-apply-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const at = (name: string): string => join(folder, name)

// A dark ring on white.
const side = 120
const samples = new Uint8Array(side * side)
for (let y = 0; y < side; y++)
  for (let x = 0; x < side; x++) {
    const r = Math.hypot(x - 60, y - 60)
    samples[y * side + x] = r < 45 && r > 22 ? 20 : 255
  }
writeFileSync(at('ring.png'), encodePng({ widthPx: side, heightPx: side, channels: 1, samples, full: 255 }))

describe('apply', () => {
  it('gives artwork a process more: filled, then its edge cut, each at its place in the order', async () => {
    expect((await ran('propose', at('ring.png'), '--proposal', 'engrave', '--size', '40x', '-o', at('a.neotaxis'))).code).toBe(0)
    const cut = await ran('apply', at('a.neotaxis'), '--process', 'cut', '-o', at('b.neotaxis'), '--json')
    expect(JSON.parse(cut.out)).toMatchObject({ process: 'cut', place: 1 })
    const filled = await ran(
      'apply',
      at('b.neotaxis'),
      '--process',
      'area',
      '--set',
      'intervalMm=0.2,power=0.3,crossDeg=none',
      '-o',
      at('c.neotaxis'),
      '--json',
    )
    expect(filled.err).toBe('')
    const told = JSON.parse(filled.out)
    expect(told).toMatchObject({ process: 'area', place: 1 })
    const { job } = loadJob(at('c.neotaxis'))
    expect(burnOrder(job).map((id) => job.operations[id].process)).toEqual(['picture', 'area', 'cut'])
    expect(job.operations[told.operation]).toMatchObject({ intervalMm: 0.2, power: 0.3 })
    const plan = await ran('plan', at('c.neotaxis'), '--json', '-o', at('c.nc'), '--only', told.operation)
    expect(JSON.parse(plan.out).seconds).toBeCloseTo(told.seconds, -1)
  })

  it('compares all ways to fill, with the numbers of the program, and plans by the one that is asked for', async () => {
    const { out } = await ran('plan', at('c.neotaxis'), '--compare', '--json')
    const { operation, strategies, now } = JSON.parse(out)
    expect(now).toBe('sweep')
    expect(strategies.map(({ name }: { name: string }) => name)).toEqual(['sweep', 'patches', 'rings', 'two-angles'])
    for (const { name, seconds, burnMm, travelMm } of strategies) {
      const plan = JSON.parse((await ran('plan', at('c.neotaxis'), '--strategy', name, '--json', '-o', at('x.nc'))).out)
      const own = plan.operations.find(({ id }: { id: string }) => id === operation)
      // In the whole job the head comes from elsewhere.
      expect(Math.abs(own.seconds - seconds)).toBeLessThan(0.5)
      expect(own.burnMm).toBeCloseTo(burnMm, 3)
      expect(Math.abs(own.travelMm - travelMm)).toBeLessThan(400)
    }
    const by = Object.fromEntries(strategies.map((each: { name: string }) => [each.name, each]))
    expect(by['two-angles'].burnMm / by.sweep.burnMm).toBeCloseTo(2, 1)
    expect(by.rings.travelMm).toBeLessThan(by.sweep.travelMm)
  })

  it('refuses what cannot be, with what is expected', async () => {
    const job = at('c.neotaxis')
    const out = ['-o', at('d.neotaxis')] as const
    expect((await ran('apply', job, ...out)).err).toContain('name a --process: cut, score, area')
    expect((await ran('apply', job, '--process', 'melt', ...out)).code).toBe(2)
    expect((await ran('apply', job, '--process', 'area')).err).toContain('-o OUT')
    expect((await ran('apply', job, '--process', 'area', '--to', 'nobody', ...out)).err).toContain('no artwork “nobody”')
    expect((await ran('apply', job, '--process', 'program', ...out)).err).toContain(
      'Nothing in this job can be burned as program',
    )
    expect((await ran('apply', job, '--process', 'program', '--to', 'source', ...out)).err).toContain('It can be: cut')
    for (const [set, word] of [
      ['intervalMm=0', 'intervalMm'],
      ['power=1.01', 'power'],
      ['strategy=spiral', 'strategy'],
      ['wobble=2', 'wobble'],
      ['power', 'power=0.4'],
      ['of=cut', 'cannot change'],
    ]) {
      const told = await ran('apply', job, '--process', 'area', '--set', set, ...out)
      expect([told.code, told.err]).toEqual([2, expect.stringContaining(word)])
    }
    expect((await ran('plan', at('a.neotaxis'), '--compare')).err).toContain('fills no area')
    expect((await ran('plan', at('a.neotaxis'), '--strategy', 'rings')).err).toContain('fills no area')
  })
})
