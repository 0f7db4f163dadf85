// @vitest-environment happy-dom
// What goes wrong in a part of the page ends that part alone; what was done can be saved and gone on with.
import { assetName, type JobDocument, unpackJob } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { act, cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { useState } from 'react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { closed, edited, opened } from '../../store/job-slice.ts'
import { store } from '../../store/store.ts'
import { fillBrowser, shown } from '../../testing/fake-server.tsx'
import { download } from '../bar/save-files.ts'
import { TroubleBoundary } from './TroubleBoundary.tsx'

vi.mock('../bar/save-files.ts', async (original) => ({ ...(await original<object>()), download: vi.fn() }))
vi.mock('../../workers/engine.ts', () => ({}))
const bytes = new Uint8Array([1, 2, 3])
const sample = sampleJob({ picture: squarePicture(20, 5) })
const job = {
  ...sample,
  nodes: { ...sample.nodes, source: { ...sample.nodes.source, asset: assetName(bytes) } },
} as JobDocument
let breaks = true
function Fragile() {
  if (breaks) throw new Error('The view went over the edge.')
  return <p>all is well</p>
}
function Screen() {
  const [typed, setTyped] = useState('')
  return (
    <>
      <input aria-label="beside it" value={typed} onChange={(event) => setTyped(event.target.value)} />
      <TroubleBoundary what="The stage" part keys={[typed]}>
        <Fragile />
      </TroubleBoundary>
    </>
  )
}

beforeEach(() => {
  breaks = true
  fillBrowser()
  vi.spyOn(console, 'error').mockImplementation(() => {})
})
afterEach(() => {
  cleanup()
  act(() => void store.dispatch(closed()))
  vi.unstubAllGlobals()
  vi.restoreAllMocks()
  vi.mocked(download).mockClear()
})
const open = (): void => act(() => void store.dispatch(opened({ id: 'j', revision: 3, document: job, edits: [], unsent: [] })))

describe('an error on the stage', () => {
  it('is told where it happened; what stands beside it goes on, and it can be tried again', () => {
    shown(<Screen />)
    expect(screen.getByTestId('trouble').textContent).toContain('The stage cannot be shown')
    expect(screen.getByTestId('trouble').textContent).toContain('The view went over the edge.')
    fireEvent.click(screen.getByTestId('trouble-again'))
    expect(screen.getByTestId('trouble')).toBeTruthy()
    breaks = false
    fireEvent.click(screen.getByTestId('trouble-again'))
    expect(screen.getByText('all is well')).toBeTruthy()
  })

  it('is over by itself when what it came from is another', () => {
    shown(<Screen />)
    breaks = false
    fireEvent.change(screen.getByLabelText('beside it'), { target: { value: 'x' } })
    expect(screen.getByText('all is well')).toBeTruthy()
  })

  it('loses nothing: the job as it is on screen is saved as a file, with what the server does not have yet', async () => {
    open()
    act(() => void store.dispatch(edited('rename', { ...job, name: 'Buoy: second try' })))
    vi.stubGlobal('fetch', async () => new Response(bytes))
    shown(<Screen />)
    expect(screen.getByTestId('trouble').textContent).toContain('What you did is kept.')
    fireEvent.click(screen.getByTestId('trouble-save'))
    await waitFor(() => expect(download).toHaveBeenCalledOnce())
    const [blob, name] = vi.mocked(download).mock.calls[0]
    expect(name).toBe('Buoy second try.neotaxis')
    const { job: saved } = unpackJob(new Uint8Array(await blob.arrayBuffer())) as { job: JobDocument }
    expect(saved.name).toBe('Buoy: second try')
  })

  it('says why where it cannot be saved', async () => {
    open()
    vi.stubGlobal('fetch', async () => {
      throw new TypeError('no network')
    })
    shown(<Screen />)
    fireEvent.click(screen.getByTestId('trouble-save'))
    expect(await screen.findByText(/A picture of this job is not here/)).toBeTruthy()
    expect(download).not.toHaveBeenCalled()
  })

  it('that is a part of the page which could not be loaded is told as that', () => {
    function Missing(): never {
      throw new TypeError('Failed to fetch dynamically imported module: /assets/RunPage.js')
    }
    shown(
      <TroubleBoundary what="The run screen">
        <Missing />
      </TroubleBoundary>,
    )
    expect(screen.getByTestId('trouble').textContent).toContain('The run screen could not be loaded')
    expect(screen.getByTestId('trouble').textContent).toContain('newer version')
  })
})
