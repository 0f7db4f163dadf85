import { describe, expect, it } from 'vitest'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import type { ProcessName } from '../job/document/operation.ts'
import { PROCESS_NAMES, PROCESSES } from '../process/table.ts'
import { checkJob } from '../reading/check-job.ts'
import { sampleJob, squarePicture } from '../testing/sample-job.ts'
import { withOperation } from './change.ts'
import {
  asideOperations,
  given,
  operationAgain,
  placeInOrder,
  processesFor,
  processesInstead,
  usedAgain,
  withOperations,
  withProcess,
  withSettingsOf,
} from './give-process.ts'
import { putAside } from './steps-edits.ts'
import { withoutOperation } from './take-away.ts'
import { undecided } from './undecided.ts'

const job = sampleJob({ picture: squarePicture(40, 10) })
const bare = undecided(job)
const drawing: JobDocument = {
  ...bare,
  nodes: {
    source: { kind: 'drawing', name: 'gull.svg', asset: 'a'.repeat(64), widthMm: 40, heightMm: 30 },
    lines: { kind: 'part', name: 'lines', from: 'source', looks: ['fill #000', 'stroke #f00'], as: 'lines' },
  },
}
const order = (of: JobDocument): ProcessName[] => burnOrder(of).map((id) => of.operations[id].process)

describe('artwork gets a process', () => {
  it('a picture that nothing was made of gets every one that a picture can have, and what it needs is made', () => {
    const can = processesFor(bare, ['source'])
    expect(can).toEqual(PROCESS_NAMES.filter((name) => name !== 'program'))
    for (const process of can) {
      const made = given(bare, ['source'], process)
      expect(checkJob(made.job)).toEqual(made.job)
      const [node] = made.job.operations[made.operation].of
      expect(PROCESSES[process].takes(made.job, node)).toBe(true)
      expect(order(made.job)).toEqual([process])
    }
  })

  it('a drawing gets what drawings can have, from all its looks, and never as heights', () => {
    const can = processesFor(drawing, ['source'])
    expect(can).not.toContain('relief')
    const filled = given(drawing, ['source'], 'area').job
    const part = Object.values(filled.nodes).find((node) => node.kind === 'part' && node.as === 'edges')
    expect(part).toMatchObject({ looks: ['fill #000', 'stroke #f00'], from: 'source' })
    expect(checkJob(filled)).toEqual(filled)
    // What was made is used again: a cut along the edge of the area makes nothing new.
    const both = given(filled, ['source'], 'cut').job
    expect(Object.keys(both.nodes)).toEqual(Object.keys(filled.nodes))
    expect(given(both, ['source'], 'picture').job.nodes).toMatchObject({
      'source-seen': { as: 'seen' },
      'source-dots': { from: 'source-seen' },
    })
  })

  it('stands where it belongs, whatever was there before: marks before what frees them', () => {
    const all = (['cut', 'score', 'picture', 'guide', 'area', 'relief'] as const).reduce(
      (sum: JobDocument, process) => given(sum, ['source'], process).job,
      bare,
    )
    expect(order(all)).toEqual(['guide', 'picture', 'relief', 'area', 'score', 'cut'])
    // What somebody ordered otherwise stays: the new one comes before the first that belongs after it.
    const cutFirst = { ...all, order: [...all.order].reverse() }
    expect(placeInOrder(cutFirst, 'area')).toBe(0)
    expect(order(given(cutFirst, ['source'], 'area').job)[0]).toBe('area')
  })

  it('is one operation over several pieces; those that cannot have it are left out', () => {
    const two: JobDocument = {
      ...drawing,
      nodes: { ...drawing.nodes, photo: bare.nodes.source },
      placements: { ...bare.placements, photo: { ...bare.placements.source, of: 'photo' } },
    }
    const { job: cut, operation } = given(two, ['source', 'photo', 'lines'], 'cut')
    expect(cut.operations[operation].of).toHaveLength(3)
    const carved = given(two, ['source', 'photo'], 'relief')
    expect(carved.job.operations[carved.operation].of).toHaveLength(1)
    expect(() => given(two, ['source'], 'relief')).toThrow('cannot be burned')
    expect(processesFor(two, [])).toEqual([])
  })

  it('several times over has names of its own, and takes what was made before', () => {
    const once = given(job, ['source'], 'cut')
    const twice = given(once.job, ['source'], 'cut')
    expect(new Set([once.operation, twice.operation, ...Object.keys(job.operations)]).size).toBe(
      Object.keys(job.operations).length + 2,
    )
    expect(twice.job.nodes).toEqual(job.nodes)
    expect(twice.job.operations[twice.operation].of).toEqual(['edge'])
  })
})

describe('an operation', () => {
  const [engrave, cut] = burnOrder(job)

  it('changes its process where it stands, with the values of the recipe, and back', () => {
    expect(processesInstead(job, cut)).toEqual(expect.arrayContaining(['score', 'area', 'guide']))
    const filled = withProcess(job, cut, 'area')
    expect(order(filled)).toEqual(['picture', 'area'])
    expect(filled.operations[cut]).toMatchObject({ process: 'area', of: ['around'], strategy: 'sweep' })
    expect(checkJob(filled)).toEqual(filled)
    expect(withProcess(filled, cut, 'cut').operations[cut]).toMatchObject({
      process: 'cut',
      of: ['around'],
      recipe: 'birch-ply-3-cut',
    })
    const kept = withProcess(withOperation(job, cut, { at: ['source'] }), cut, 'score')
    expect(kept.operations[cut].at).toEqual(['source'])
  })

  it('is copied right after itself, put aside, and used again at its place', () => {
    const { job: two, operation } = operationAgain(job, cut)
    expect(burnOrder(two)).toEqual([engrave, cut, operation])
    expect(two.operations[operation]).toEqual(job.operations[cut])
    const aside = putAside(job, engrave)
    expect(asideOperations(aside)).toEqual([engrave])
    expect(burnOrder(usedAgain(aside, engrave))).toEqual([engrave, cut])
    expect(asideOperations(withoutOperation(aside, engrave))).toEqual([])
  })

  it('takes the settings of another: all of the same process, what all have of another one', () => {
    const { job: two, operation } = operationAgain(job, cut)
    const changed = withOperation(two, cut, { speedMmS: 3, kerfMm: 0.3, at: ['source'] } as never)
    const same = withSettingsOf(changed, cut, [operation, engrave])
    expect(same.operations[operation]).toEqual({ ...changed.operations[cut], at: undefined })
    expect(same.operations[engrave]).toMatchObject({
      process: 'picture',
      speedMmS: 3,
      power: job.operations[cut].power,
      recipe: undefined,
    })
    expect(same.operations[engrave]).not.toHaveProperty('kerfMm')
    expect(checkJob(same).operations[engrave]).toBeTruthy()
    expect(withOperations(two, [cut, operation], { passes: 3 }).operations[operation].passes).toBe(3)
  })
})
