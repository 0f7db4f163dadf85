import { burnOrder, type KeptEdit, MACHINES, MATERIALS, propose, ResultCache, reordered, withOperation } from '@neotaxis/core'
import { configureStore } from '@reduxjs/toolkit'
import { beforeEach, describe, expect, it } from 'vitest'
import {
  abandoned,
  acknowledged,
  branchedOff,
  changing,
  closed,
  edited,
  editRefused,
  jobReducer,
  opened,
  redone,
  saveRefused,
  serverAway,
  undone,
} from './job-slice.ts'

const samples = new Uint8Array(400).fill(80)
const picture = { widthPx: 20, heightPx: 20, samples, full: 255 }
const facts = { name: 'gauge.png', asset: 'a'.repeat(64), widthPx: 20, heightPx: 20, hasAlpha: false }
const settings = { workpiece: { widthMm: 60, heightMm: 40, thicknessMm: 3 }, material: MATERIALS[0], machine: MACHINES[0] }
const document = propose(facts, picture, settings, { cache: new ResultCache(), picture: () => picture })[1].job

const make = () =>
  configureStore({ reducer: { job: jobReducer }, middleware: (d) => d({ serializableCheck: false, immutableCheck: false }) })
let store: ReturnType<typeof make>
const job = () => store.getState().job
const power = (value: number) => withOperation(job().document!, 'cut', { power: value })
/** Edits of the page as the server keeps them after revision 4, behind those of others. */
const kept = (...before: KeptEdit[]): KeptEdit[] => [
  ...before,
  ...job().pending.map((edit, i) => ({ ...edit, revision: 5 + before.length + i })),
]
const tell = (edits: readonly KeptEdit[], base = 4) =>
  store.dispatch(acknowledged({ jobId: 'j', base, revision: base + edits.length, edits, at: 1 }))

beforeEach(() => {
  store = make()
  store.dispatch(opened({ id: 'j', revision: 4, document, edits: [], unsent: [] }))
})

describe('edits', () => {
  it('show a change at once, and make one edit of it when it ends', () => {
    store.dispatch(changing(power(0.1)))
    store.dispatch(changing(power(0.2)))
    expect(job().document!.operations.cut.power).toBe(0.2)
    expect(job().base!.operations.cut.power).toBe(0.68)
    expect(job().pending).toEqual([])
    store.dispatch(edited('power 20 %'))
    expect(job().pending.map(({ name, patches }) => [name, patches])).toEqual([
      ['power 20 %', [{ path: ['operations', 'cut', 'power'], value: 0.2 }]],
    ])
  })

  it('drop a change that is abandoned, and one that changes nothing', () => {
    store.dispatch(changing(power(0.1)))
    store.dispatch(abandoned())
    expect(job().document).toBe(job().base)
    store.dispatch(edited('nothing', structuredClone(document)))
    expect(job().pending).toEqual([])
    expect(job().document).toBe(job().base)
  })

  it('undo and redo by name, each an edit of its own that names what it takes back', () => {
    store.dispatch(edited('power 10 %', power(0.1)))
    store.dispatch(edited('cut first', reordered(job().document!, 'cut', 0)))
    store.dispatch(undone())
    expect(burnOrder(job().document!)).toEqual(['engrave', 'cut'])
    expect(job().history.done.at(-1)!.name).toBe('power 10 %')
    expect(job().history.undone.at(-1)!.name).toBe('cut first')
    store.dispatch(undone())
    store.dispatch(undone())
    expect(job().document).toEqual(document)
    store.dispatch(redone())
    store.dispatch(redone())
    store.dispatch(redone())
    expect(burnOrder(job().document!)).toEqual(['cut', 'engrave'])
    expect(job().document!.operations.cut.power).toBe(0.1)
    const { pending } = job()
    expect(pending.map(({ kind }) => kind)).toEqual(['edit', 'edit', 'undo', 'undo', 'redo', 'redo'])
    const at = (id: string | undefined): number => pending.findIndex((edit) => edit.id === id)
    expect(pending.map(({ of }) => at(of))).toEqual([-1, -1, 1, 0, 3, 2])
  })
})

describe('the server', () => {
  const theirs = (value: number, what = 'engrave'): KeptEdit => ({
    id: 'other',
    name: 'power',
    kind: 'edit',
    revision: 5,
    patches: [{ path: ['operations', what, 'power'], value }],
    inverse: [{ path: ['operations', what, 'power'], value: 0.3 }],
  })

  it('takes edits off the list, and brings in what others did', () => {
    store.dispatch(edited('power 10 %', power(0.1)))
    tell(kept(theirs(0.5)))
    expect(job()).toMatchObject({ pending: [], revision: 6, save: 'saved', savedAt: 1 })
    expect([job().document!.operations.cut.power, job().document!.operations.engrave.power]).toEqual([0.1, 0.5])
    // What is shown already is not worked out again.
    const { document: shown } = job()
    store.dispatch(edited('name', { ...shown!, name: 'Other' }))
    const before = job().document
    tell(
      job().pending.map((edit) => ({ ...edit, revision: 7 })),
      6,
    )
    expect(job().document).toBe(before)
  })

  it('does not disturb a change in progress: what others did is worked in when it ends', () => {
    store.dispatch(changing(power(0.3)))
    const shown = job().document
    tell([theirs(0.5)])
    expect(job().document).toBe(shown)
    expect(job().revision).toBe(4)
    store.dispatch(edited('power 30 %'))
    expect(job()).toMatchObject({ revision: 5, forks: false, news: [] })
    expect(job().document!.operations.engrave.power).toBe(0.5)
    expect(job().pending[0].patches).toEqual([{ path: ['operations', 'cut', 'power'], value: 0.3 }])
    store.dispatch(changing(power(0.4)))
    tell([{ ...theirs(0.6), id: 'again', revision: 6 }], 5)
    store.dispatch(changing(job().base!))
    expect(job()).toMatchObject({ revision: 6, news: [] })
  })

  it('is not overwritten where both changed the same while a save was under way: the page forks, on what its edits were made on', () => {
    store.dispatch(edited('name', { ...job().document!, name: 'Mine' }))
    const [sent] = job().pending
    store.dispatch(edited('power 10 %', power(0.1)))
    tell([theirs(0.9, 'cut'), { ...sent, revision: 6 }])
    expect(job()).toMatchObject({ forks: true, revision: 4, save: 'saving' })
    expect(job().pending.map(({ name }) => name)).toEqual(['name', 'power 10 %'])
    expect(job().document!.operations.cut.power).toBe(0.1)
    store.dispatch(branchedOff())
    store.dispatch(edited('late', power(0.7)))
    expect(job()).toMatchObject({ pending: [], left: true })
  })

  it('may say the same twice, or late: an old answer changes nothing', () => {
    store.dispatch(edited('power 10 %', power(0.1)))
    const answer = kept()
    tell(answer)
    const before = job()
    tell(answer)
    expect(job()).toBe(before)
    store.dispatch(acknowledged({ jobId: 'another', base: 5, revision: 9, edits: [theirs(0.5)], at: 1 }))
    expect(job()).toBe(before)
  })

  it('works out an undo itself: what it did counts, not what was shown', () => {
    store.dispatch(edited('power 10 %', power(0.1)))
    tell(kept())
    store.dispatch(undone())
    const [undo] = job().pending
    const patches = [{ path: ['operations', 'cut', 'power'], value: 0.44 }]
    tell([{ ...undo, patches, revision: 6 }], 5)
    expect(job().document!.operations.cut.power).toBe(0.44)
    expect(job().history.undone).toHaveLength(1)
  })

  it('may refuse one edit: it is taken out with what takes it back, and the reason is told', () => {
    store.dispatch(edited('power 10 %', power(0.1)))
    store.dispatch(edited('name', { ...job().document!, name: 'Mine' }))
    store.dispatch(undone())
    const [, named] = job().pending
    store.dispatch(editRefused({ edit: named.id, message: 'No.' }))
    expect(job().pending.map(({ name }) => name)).toEqual(['power 10 %'])
    expect(job()).toMatchObject({ notDone: 'No.', save: 'saving' })
    expect(job().document).toMatchObject({ name: document.name })
  })

  it('may be away or refuse: nothing is lost', () => {
    store.dispatch(edited('power 10 %', power(0.1)))
    store.dispatch(serverAway('The disk is full.'))
    expect(job()).toMatchObject({ save: 'away', refusal: 'The disk is full.', pending: [{ name: 'power 10 %' }] })
    store.dispatch(saveRefused('No.'))
    expect(job()).toMatchObject({ save: 'refused', refusal: 'No.', pending: [{ name: 'power 10 %' }] })
    store.dispatch(closed())
    expect(job().document).toBeNull()
  })

  it('gives edits of an earlier page back as history, and applies those that were not sent', () => {
    const edit = { ...theirs(0.9), revision: 4 }
    const unsent = { ...theirs(0.2), id: 'mine', name: 'unsent' }
    store.dispatch(opened({ id: 'j', revision: 4, document, edits: [edit], unsent: [unsent] }))
    expect(job().document!.operations.engrave.power).toBe(0.2)
    expect(job().history.done.map(({ name }) => name)).toEqual(['power', 'unsent'])
    expect(job()).toMatchObject({ save: 'saving', pending: [{ id: 'mine' }] })
  })
})
