import { type JobDocument, MACHINES, MATERIALS, propose, ResultCache, reordered, withOperation } from '@neotaxis/core'
import { configureStore } from '@reduxjs/toolkit'
import { beforeEach, describe, expect, it } from 'vitest'
import type { SavedEdit } from '../api/api.ts'
import {
  abandoned,
  acknowledged,
  changing,
  closed,
  edited,
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
const document: JobDocument = propose(facts, picture, settings, { cache: new ResultCache(), picture: () => picture })[1].job

const make = () =>
  configureStore({ reducer: { job: jobReducer }, middleware: (d) => d({ serializableCheck: false, immutableCheck: false }) })
let store: ReturnType<typeof make>
const job = () => store.getState().job
const power = (value: number) => withOperation(job().document!, 'cut', { power: value })

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

  it('undo and redo by name, each an edit of its own that is sent', () => {
    store.dispatch(edited('power 10 %', power(0.1)))
    store.dispatch(edited('cut first', reordered(job().document!, 'cut', 0)))
    store.dispatch(undone())
    expect(job().document!.runOrder).toEqual(['engrave', 'cut'])
    expect(job().history.done.at(-1)!.name).toBe('power 10 %')
    expect(job().history.undone.at(-1)!.name).toBe('cut first')
    store.dispatch(undone())
    store.dispatch(undone())
    expect(job().document).toEqual(document)
    store.dispatch(redone())
    store.dispatch(redone())
    store.dispatch(redone())
    expect(job().document!.runOrder).toEqual(['cut', 'engrave'])
    expect(job().document!.operations.cut.power).toBe(0.1)
    expect(job().pending.map(({ kind }) => kind)).toEqual(['edit', 'edit', 'undo', 'undo', 'redo', 'redo'])
  })
})

describe('the server', () => {
  const theirs = (value: number): SavedEdit => ({
    id: 'other',
    name: 'power',
    kind: 'edit',
    revision: 5,
    patches: [{ path: ['operations', 'engrave', 'power'], value }],
    inverse: [],
  })

  it('takes edits off the list, and brings in what others did', () => {
    store.dispatch(edited('power 10 %', power(0.1)))
    const [{ id }] = job().pending
    store.dispatch(acknowledged({ jobId: 'j', ids: [id], revision: 6, missed: [theirs(0.5)], at: 1 }))
    expect(job()).toMatchObject({ pending: [], revision: 6, save: 'saved', savedAt: 1 })
    expect([job().document!.operations.cut.power, job().document!.operations.engrave.power]).toEqual([0.1, 0.5])
  })

  it('does not disturb a change in progress', () => {
    store.dispatch(changing(power(0.3)))
    store.dispatch(acknowledged({ jobId: 'j', ids: [], revision: 5, missed: [theirs(0.5)], at: 1 }))
    expect(job().document!.operations.cut.power).toBe(0.3)
    expect(job().document!.operations.engrave.power).toBe(0.5)
    store.dispatch(edited('power 30 %'))
    expect(job().pending[0].patches).toEqual([{ path: ['operations', 'cut', 'power'], value: 0.3 }])
  })

  it('may answer for a job that was left meanwhile, which changes nothing', () => {
    store.dispatch(edited('power 10 %', power(0.1)))
    const before = job()
    store.dispatch(acknowledged({ jobId: 'another', ids: [before.pending[0].id], revision: 9, missed: [], at: 1 }))
    expect(job()).toBe(before)
  })

  it('may be away or refuse: nothing is lost', () => {
    store.dispatch(edited('power 10 %', power(0.1)))
    store.dispatch(serverAway())
    expect(job()).toMatchObject({ save: 'away', pending: [{ name: 'power 10 %' }] })
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
