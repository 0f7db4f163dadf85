import type { SaveAnswer } from '@neotaxis/contract'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { ServerAway, ServerRefusal } from '../api/call.ts'
import { edited, jobReducer, opened } from './job-slice.ts'
import { type JobState, NO_JOB } from './job-state.ts'
import { type EditServer, openJob, Saver, type SaverSetting } from './saver.ts'
import { browserDrawers, type Drawers } from './unsent.ts'

const document = sampleJob({ picture: squarePicture(10, 5) })
let state: JobState
let drawers: Drawers
let storage: Record<string, string>
let answers: (() => Promise<SaveAnswer>)[]
let due: { ms: number; call: () => void }[]
let saver: Saver | undefined
const sent: { base: number; ids: string[] }[] = []
const onBranch = vi.fn()

/** A browser's store: keys are properties. */
function fakeStorage(kept: Record<string, string>): Storage {
  const methods = {
    getItem: (key: string) => kept[key] ?? null,
    setItem: (key: string, text: string) => {
      if (key.length + text.length > 1000) throw new Error('QuotaExceededError')
      kept[key] = text
    },
    removeItem: (key: string) => {
      delete kept[key]
    },
  }
  return new Proxy(methods as unknown as Storage, {
    ownKeys: () => Object.keys(kept),
    getOwnPropertyDescriptor: () => ({ enumerable: true, configurable: true }),
  })
}

const server: EditServer = {
  job: async (id) => ({ id, revision: 3, branchOf: null, document, edits: [] }),
  saveEdits: (_id, base, edits) => {
    sent.push({ base, ids: edits.map(({ id }) => id) })
    return (answers.shift() ?? (() => Promise.reject(new ServerAway())))()
  },
  editsSince: async (_id, revision) => ({ revision, edits: [] }),
}
const setting = (): SaverSetting => ({
  server,
  drawers,
  read: () => state,
  dispatch: (action) => {
    const before = state
    state = jobReducer(state, action)
    if (state !== before) saver?.changed()
  },
  after: (ms, call) => {
    const entry = { ms, call }
    due.push(entry)
    return () => {
      due = due.filter((one) => one !== entry)
    }
  },
  now: () => 7,
  isSeen: () => true,
})
const settle = () => new Promise((resolve) => setTimeout(resolve))
const rename = (name: string) => setting().dispatch(edited(`name ${name}`, { ...state.document!, name }))
const saved = (): Promise<SaveAnswer> =>
  Promise.resolve({
    status: 'saved',
    base: state.revision,
    revision: state.revision + state.pending.length,
    edits: state.pending.map((edit, i) => ({ ...edit, revision: state.revision + i + 1 })),
  })

beforeEach(() => {
  state = NO_JOB
  storage = {}
  drawers = browserDrawers(fakeStorage(storage), undefined)
  answers = []
  due = []
  sent.length = 0
  onBranch.mockClear()
  saver = undefined
  setting().dispatch(opened({ id: 'j', revision: 3, document, edits: [], unsent: [] }))
  saver = new Saver(setting(), onBranch)
})

describe('edits on their way', () => {
  it('lie in a drawer until the server has them, and are sent one request at a time', async () => {
    let answer: (value: SaveAnswer) => void = () => {}
    answers = [
      () =>
        new Promise((resolve) => {
          answer = resolve
        }),
      saved,
    ]
    rename('A')
    expect(Object.keys(storage)).toHaveLength(1)
    rename('B')
    expect(sent).toHaveLength(1)
    const [first] = state.pending
    answer({ status: 'saved', base: 3, revision: 4, edits: [{ ...first, revision: 4 }] })
    await settle()
    expect(sent.map(({ base, ids }) => [base, ids.length])).toEqual([
      [3, 1],
      [4, 1],
    ])
    expect(state).toMatchObject({ save: 'saved', revision: 5, pending: [], savedAt: 7 })
    expect(storage).toEqual({})
  })

  it('are sent again on the same revision until there is an answer, later each time, and at once when the line is back', async () => {
    rename('A')
    await settle()
    expect(state.save).toBe('away')
    const retry = () => due.find(({ ms }) => ms < 4000)
    expect(retry()!.ms).toBe(500)
    retry()!.call()
    due = []
    await settle()
    expect(retry()!.ms).toBe(1000)
    answers = [saved]
    saver!.again()
    await settle()
    expect(sent.map(({ base }) => base)).toEqual([3, 3, 3])
    expect(new Set(sent.flatMap(({ ids }) => ids)).size).toBe(1)
    expect(state.save).toBe('saved')
  })

  it('wait while the disk of the server is full, and say why', async () => {
    answers = [() => Promise.reject(new ServerAway('The disk of the server is full.'))]
    rename('A')
    await settle()
    expect(state).toMatchObject({ save: 'away', refusal: 'The disk of the server is full.', pending: [{ name: 'name A' }] })
  })

  it('that are refused as a whole are kept, and tried again with what is made next', async () => {
    answers = [() => Promise.reject(new ServerRefusal(413, 'too-large', 'Too large.')), saved]
    rename('A')
    await settle()
    expect(state).toMatchObject({ save: 'refused', refusal: 'Too large.' })
    expect(Object.keys(storage)).toHaveLength(1)
    rename('B')
    await settle()
    expect(state).toMatchObject({ save: 'saved', pending: [] })
  })

  it('that do not fit into the browser are in this page only, and it says so', async () => {
    rename('x'.repeat(150))
    rename('y'.repeat(180))
    rename('z'.repeat(190))
    rename('q'.repeat(190))
    await settle()
    expect(state).toMatchObject({ unsafe: true, save: 'away' })
    answers = [saved]
    saver!.again()
    await settle()
    expect(state).toMatchObject({ unsafe: false, save: 'saved' })
  })

  it('made after a branch was sent go on there, and nothing more is made here', async () => {
    let answer: (value: SaveAnswer) => void = () => {}
    answers = [
      () =>
        new Promise((resolve) => {
          answer = resolve
        }),
    ]
    rename('A')
    rename('B')
    const late = state.pending[1].id
    answer({ status: 'branched', branch: 'b', branchName: 'A (branch)', revision: 9 })
    await settle()
    expect(onBranch).toHaveBeenCalledWith({ id: 'b', name: 'A (branch)' })
    expect(Object.keys(storage).map((key) => key.split('.')[2])).toEqual(['b'])
    expect(JSON.parse(Object.values(storage)[0])).toMatchObject({ base: 9, edits: [{ id: late }] })
    rename('C')
    expect(state.pending).toEqual([])
  })
})

describe('opening a job', () => {
  const opening = (onRefused = vi.fn(), isWanted = () => true) => ({ opening: { onBranch, onRefused, isWanted }, onRefused })
  const drawer = (edits: object[]) => {
    storage['neotaxis.unsent.j.dead'] = JSON.stringify({ base: 2, edits })
  }
  const edit = (id: string) => ({ id, name: id, kind: 'edit', patches: [] })

  it('sends what an earlier page could not, and opens all the same where one edit or all are refused', async () => {
    drawer([edit('a'), edit('bad'), edit('c')])
    answers = [
      () => Promise.resolve({ status: 'refused', edit: 'bad', message: 'No.' }),
      () => Promise.resolve({ status: 'saved', base: 2, revision: 4, edits: [] }),
    ]
    const { opening: how, onRefused } = opening()
    await openJob('j', setting(), how)
    expect(sent.map(({ ids }) => ids)).toEqual([
      ['a', 'bad', 'c'],
      ['a', 'c'],
    ])
    expect(onRefused).toHaveBeenCalledWith('No.')
    expect(storage).toEqual({})

    drawer([edit('d')])
    answers = [() => Promise.reject(new ServerRefusal(409, 'unknown-revision', 'The server does not know the version.'))]
    await openJob('j', setting(), how)
    expect(Object.keys(storage)).toEqual(['neotaxis.put-aside.j.dead'])
    expect(onRefused).toHaveBeenLastCalledWith(expect.stringContaining('kept in this browser: The server does not know'))
    expect(state.id).toBe('j')
  })

  it('keeps the drawer while the server is away', async () => {
    drawer([edit('a')])
    await expect(openJob('j', setting(), opening().opening)).rejects.toThrow(ServerAway)
    expect(Object.keys(storage)).toEqual(['neotaxis.unsent.j.dead'])
  })

  it('does not take the place of another job that was opened meanwhile', async () => {
    const before = state
    await openJob('late', setting(), opening(vi.fn(), () => false).opening)
    expect(state).toBe(before)
  })

  it('passes over what lies in the store and is none of its drawers', async () => {
    Object.assign(storage, { 'neotaxis.unsent.j.x': '{broken', 'neotaxis.unsent.other.y': '{}', 'neotaxis.view': '{}' })
    await openJob('j', setting(), opening().opening)
    expect(sent).toEqual([])
  })
})

describe('others', () => {
  it('are asked for every few seconds while nothing is under way, and their edits come in', async () => {
    const look = due.find(({ ms }) => ms === 4000)!
    const theirs = {
      id: 't',
      name: 't',
      kind: 'edit' as const,
      revision: 4,
      patches: [{ path: ['name'], value: 'Theirs' }],
      inverse: [],
    }
    const spy = vi.spyOn(server, 'editsSince').mockResolvedValueOnce({ revision: 4, edits: [theirs] })
    look.call()
    await settle()
    expect(spy).toHaveBeenCalledWith('j', 3)
    expect(state).toMatchObject({ revision: 4, document: { name: 'Theirs' } })
    // Again later; and nothing when it has ended.
    expect(due.some((one) => one !== look && one.ms === 4000)).toBe(true)
    saver!.end()
    spy.mockRestore()
  })
})
