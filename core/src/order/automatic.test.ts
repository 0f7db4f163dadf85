import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { withOperation } from '../edits/change.ts'
import { given } from '../edits/give-process.ts'
import { burned, putAside, stepAdded } from '../edits/steps-edits.ts'
import { checkFindings } from '../findings/check.ts'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import type { Step } from '../job/document/steps.ts'
import { askedBefore } from '../plan/plan.ts'
import { checkJob } from '../reading/check-job.ts'
import { sampleJob, squarePicture, supplyWith } from '../testing/sample-job.ts'
import { inGoodOrder, isHeld, unprepared } from './automatic.ts'
import { placesInOrder } from './reasons.ts'
import { relationsOf } from './relations.ts'

const picture = squarePicture(20, 5)
const supply = supplyWith(picture)
const sample = sampleJob({ picture })
const [edge] = sample.operations.cut.of

/** engrave, cut (around the square), frame (a cut around that), line (scored along the frame's edge). */
const panel = ((): JobDocument => {
  const node = { ...sample.nodes[edge], name: 'frame', distanceMm: 12 } as (typeof sample.nodes)[string]
  const wider = { ...sample, nodes: { ...sample.nodes, frame: node } }
  const framed = burned(wider, 'frame', { ...sample.operations.cut, of: ['frame'] })
  const { job, operation } = given(framed, [edge], 'score')
  expect(operation).toBe('score')
  return job
})()

const withOrderOf = (job: JobDocument, order: readonly string[]): JobDocument => ({ ...job, order })

describe('a good order', () => {
  it('is found from every order: marks before what frees them, inner cuts before outer ones', () => {
    expect(
      relationsOf(panel, supply)
        .map(({ first, then, why }) => `${first} ${why} ${then}`)
        .sort(),
    ).toEqual([
      'cut cuts-in frame',
      'engrave marks-on cut',
      'engrave marks-on frame',
      'score marks-on cut',
      'score marks-on frame',
    ])
    fc.assert(
      fc.property(fc.shuffledSubarray([...panel.order], { minLength: panel.order.length }), (order) => {
        const good = inGoodOrder(withOrderOf(panel, order), supply)
        expect(burnOrder(good)).toEqual(['engrave', 'score', 'cut', 'frame'])
        expect(checkJob(good)).toEqual(good)
        expect(checkFindings(good, supply).filter(({ kind }) => kind === 'cut-first')).toEqual([])
        expect(inGoodOrder(good, supply)).toEqual(good)
      }),
    )
  })

  it('has a reason for each place, and says what speaks against it', () => {
    const good = placesInOrder(panel, relationsOf(panel, supply))
    expect(good.engrave.reasons).toEqual(['before 3 and 4, which free what it marks'])
    expect(good.cut.reasons).toEqual(['before 4, which frees the part around it', 'after 1 and 2: it frees what they mark'])
    expect(good.frame.reasons).toEqual(['after 1 and 2: it frees what they mark', 'after 3: the inner cut first'])
    const bad = withOrderOf(panel, ['frame', 'cut', 'score', 'engrave'])
    const places = placesInOrder(bad, relationsOf(bad, supply))
    expect(places.frame).toEqual({
      reasons: [],
      against: ['before 3 and 4: it frees what they mark', 'before 2: the inner cut first'],
    })
    expect(
      checkFindings(bad, supply)
        .filter(({ kind }) => kind === 'cut-first')
        .map(({ operation }) => operation),
    ).toEqual(['frame', 'cut'])
    for (const { reasons, against } of Object.values(places)) expect(reasons.length + against.length).toBeGreaterThan(0)
  })

  it('keeps together what is prepared alike, and asks for it where it differs', () => {
    const masked = withOperation(withOperation(panel, 'engrave', { prepared: 'masked' }), 'frame', { prepared: 'masked' })
    expect(unprepared(masked)).toEqual(['score', 'frame'])
    const good = inGoodOrder(masked, supply)
    expect(unprepared(good)).toEqual([])
    expect(askedBefore(good).get('engrave')).toEqual(['Prepare the piece: masked'])
    expect(burnOrder(good)).toEqual(['score', 'engrave', 'cut', 'frame'])
    expect(checkFindings(masked, supply).filter(({ kind }) => kind === 'unprepared')).toHaveLength(2)
    expect(checkFindings(good, supply).filter(({ kind }) => kind === 'unprepared')).toEqual([])
  })

  it('takes what is asked along, leaves set-ups where they are, and what is switched off', () => {
    const pause: Step = { kind: 'pause', text: 'Wipe it' }
    const turned = stepAdded(panel, { kind: 'set-up', name: 'Turned over' }, 2).job
    const order = ['cut', 'engrave', turned.order[2], 'frame', 'score']
    const asked = stepAdded(withOrderOf(turned, order), pause, 0).job
    const good = inGoodOrder(asked, supply)
    expect(burnOrder(good)).toEqual(['engrave', 'cut', 'score', 'frame'])
    expect(askedBefore(good).get('cut')).toEqual(['Wipe it'])
    expect(askedBefore(good).get('score')).toEqual(['Turned over'])
    const off = putAside(panel, 'engrave')
    expect(inGoodOrder(off, supply).order).toHaveLength(4)
  })

  it('lets another tool cut first what bridges hold, and last what it frees', () => {
    const elsewhere = (of: string): Step => ({ kind: 'elsewhere', text: 'Mill it', tool: 'mill', of: [of], toolMm: 3 })
    const free = stepAdded(panel, elsewhere(edge), 0)
    expect(isHeld(free.job, free.step)).toBe(false)
    expect(inGoodOrder(free.job, supply).order.at(-1)).toBe(free.step)
    const nodes = { ...panel.nodes, held: { kind: 'bridged', name: 'held', from: edge, bridges: {} } as const }
    const held = stepAdded({ ...panel, nodes }, elsewhere('held'))
    const good = inGoodOrder(held.job, supply)
    expect(good.order[0]).toBe(held.step)
    expect(good.steps[good.order[1]]).toMatchObject({ kind: 'by-hand' })
    expect(checkJob(good)).toEqual(good)
  })
})
