import { applyPatches, type Edit, type JobDocument, withOperation } from '@neotaxis/core'
import { EditKeeper } from '@neotaxis/core/testing/edit-keeper'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { Job, Revision } from '../models/index.ts'
import { openShop, type Shop } from '../testing/shop.ts'
import { jobColumns } from './job-columns.ts'
import { readJson } from './json-limits.ts'
import { keptEdit, saveEdits } from './save-edits.ts'

/** Histories on a real database; the campaign makes more of them. */
const HISTORIES = process.env.NEOTAXIS_CAMPAIGN === '1' ? 400 : 25
let shop: Shop
beforeAll(async () => {
  shop = await openShop({ name: 'edits' })
})
afterAll(() => shop.end())

const document = sampleJob({ picture: squarePicture(10, 5) })
let number = 0

/** What a page may send: edits on some revision that it knows, undo among them, sent once or twice. */
const sending = fc.record({
  behind: fc.nat(3),
  twice: fc.boolean(),
  edits: fc.array(fc.tuple(fc.nat(5), fc.integer({ min: 1, max: 90 })), { minLength: 1, maxLength: 4 }),
})

const withoutName = ({ name: _name, ...rest }: JobDocument) => rest

describe('edits in the database', () => {
  it(`come to what the rules say, in ${HISTORIES} random histories: saved, branched, refused, sent twice`, {
    timeout: 300_000,
  }, async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(sending, { minLength: 1, maxLength: 10 }), async (history) => {
        const id = `h${number++}`
        await Job.create({ id, revision: 0, branchOf: null, ...jobColumns(document) })
        const keeper = new EditKeeper()
        keeper.add(id, document)
        const known: string[] = []
        for (const { behind, twice, edits } of history) {
          const { revision } = keeper.open(id)
          const base = Math.max(0, revision - behind)
          const made = edits.map(([kind, value], i): Edit => {
            const edit = { id: `${id}-${known.length + i}`, name: `edit ${value}` }
            if (kind === 0 && known.length > 0)
              return { ...edit, kind: value % 2 ? 'undo' : 'redo', of: known[value % known.length], patches: [] }
            if (kind === 1)
              return {
                ...edit,
                kind: 'edit',
                patches: [{ path: ['order'], value: value < 8 ? ['gone'] : ['cut', 'engrave'] }],
              }
            if (kind === 2) return { ...edit, kind: 'edit', patches: [{ path: ['meant', `m${value % 3}`], value: `v${value}` }] }
            const operation = kind === 3 ? 'engrave' : 'cut'
            const { power } = withOperation(document, operation, { power: value / 100 }).operations[operation]
            return { ...edit, kind: 'edit', patches: [{ path: ['operations', operation, 'power'], value: power }] }
          })
          known.push(...made.map((edit) => edit.id))
          for (let sent = 0; sent < (twice ? 2 : 1); sent++) {
            const expected = keeper.save(id, base, made)
            const found = await saveEdits(id, base, made)
            expect(found.status).toBe(expected.status)
            if (found.status === 'saved') expect(found).toEqual(expected)
            else if (found.status === 'branched' && expected.status === 'branched') {
              const branch = await Job.findByPk(found.branch)
              const other = keeper.open(expected.branch)
              expect(withoutName(JSON.parse(branch!.document))).toEqual(withoutName(other.document))
              expect([branch!.revision, branch!.branchOf]).toEqual([other.revision, id])
              const rows = await Revision.findAll({ where: { jobId: found.branch }, order: ['revision'] })
              expect(rows.map(keptEdit)).toEqual(other.edits)
            } else expect(found).toEqual(expected)
          }
        }
        const job = await Job.findByPk(id)
        expect(JSON.parse(job!.document)).toEqual(keeper.open(id).document)
        expect(job!.revision).toBe(keeper.open(id).revision)
        // What lists tell of it belongs to its newest document.
        expect(job!.name).toBe(JSON.parse(job!.document).name)
        const rows = await Revision.findAll({ where: { jobId: id }, order: ['revision'] })
        expect(
          applyPatches(
            document,
            rows.flatMap((row) => keptEdit(row).patches),
          ),
        ).toEqual(JSON.parse(job!.document))
      }),
      { numRuns: HISTORIES },
    )
  })
})

it('a branch that was made without an edit that was refused is found again by a drawer that still has it', async () => {
  const id = `h${number++}`
  await Job.create({ id, revision: 0, branchOf: null, ...jobColumns(document) })
  const power = (edit: string, value: number): Edit => ({
    id: `${id}-${edit}`,
    name: edit,
    kind: 'edit',
    patches: [{ path: ['operations', 'cut', 'power'], value: value / 100 }],
  })
  const first: Edit = { ...power('first', 0), patches: [{ path: ['meant', 'm'], value: 'first' }] }
  const undo: Edit = { id: `${id}-undo`, name: 'first', kind: 'undo', of: first.id, patches: [] }
  await saveEdits(id, 0, [first])
  await saveEdits(id, 1, [{ ...first, id: `${id}-other`, patches: [{ path: ['meant', 'm'], value: 'other' }] }])
  // The undo is refused and taken out; what is left is a branch; a drawer of the same page has the undo too.
  const mine = power('mine', 30)
  expect((await saveEdits(id, 1, [undo, mine])).status).toBe('refused')
  await saveEdits(id, 2, [power('theirs', 40)])
  const branched = await saveEdits(id, 1, [mine])
  const again = await saveEdits(id, 1, [undo, mine])
  if (branched.status !== 'branched') throw new Error('It is no branch.')
  expect(again).toMatchObject({ status: 'branched', branch: branched.branch })
  expect(await Job.count({ where: { branchOf: id } })).toBe(1)
})

describe('JSON from outside', () => {
  const read = (text: string, most = 1000) => readJson(Buffer.from(text), most, 'The job')
  it('is read where it is small and shallow enough, whatever stands in its texts', () => {
    expect(read('{"a":[1,{"b":"[[[[{{{{\\"}"}]}')).toEqual({ a: [1, { b: '[[[[{{{{"}' }] })
    expect(read(`"${'['.repeat(500)}"`)).toBe('['.repeat(500))
    expect(read(`${'['.repeat(64)}${']'.repeat(64)}`)).toBeDefined()
  })

  it('is refused with a sentence before anything is made of it: too large, too deep, none at all', () => {
    const why = (text: string, most?: number): [number, string] => {
      try {
        read(text, most)
      } catch (cause) {
        return [(cause as { status: number }).status, (cause as Error).message]
      }
      throw new Error('It was read.')
    }
    expect(why('x'.repeat(2_000_001), 2_000_000)).toEqual([413, 'The job is larger than 2 MB: that is more than can be used.'])
    expect(why('['.repeat(100_000), 200_000)[0]).toBe(422)
    expect(why(`${'{"a":'.repeat(65)}1${'}'.repeat(65)}`)[1]).toContain('nests deeper')
    for (const text of ['', '{', 'undefined', '{"a":}']) expect(why(text)[0]).toBe(400)
  })
})
