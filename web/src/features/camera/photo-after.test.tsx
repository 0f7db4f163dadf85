// @vitest-environment happy-dom
// The photo after a run: how dark each operation came out is told where a card of its material was read from a photo once.
import type { RunFull } from '@neotaxis/contract'
import type { JobDocument } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { cleanup, fireEvent, screen } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { fakeServer, fillBrowser, shown } from '../../testing/fake-server.tsx'
import { PhotoAfter } from './PhotoAfter.tsx'

const { burnIn, darkOnBed } = vi.hoisted(() => ({ burnIn: vi.fn(), darkOnBed: vi.fn() }))
vi.mock('./camera-work.ts', () => ({ cameraWork: () => ({ burnIn }) }))
vi.mock('../../workers/engine.ts', () => ({ darkOnBed, compareWithBurn: vi.fn() }))
vi.mock('../run/BurnCard.tsx', () => ({ Picture: () => null }))

const plain = sampleJob({ picture: squarePicture(20, 5) })
const [engrave] = Object.keys(plain.operations).filter((id) => 'intervalMm' in plain.operations[id])
/** Its material with a tone curve that a photo of a card gave. */
const known: JobDocument = (() => {
  const [material] = Object.values(plain.materials)
  const curve = {
    id: 'tone',
    quantity: 'tone' as const,
    points: [0, 1, 2].map((input) => ({ input, readings: [input / 2] })),
    conditions: { machine: plain.machine.id, date: '2026-11-20', contrast: 0.7 },
  }
  const layers = material.layers.map((layer, i) => (i === 0 ? { ...layer, curves: [curve] } : layer))
  return { ...plain, materials: { [material.id]: { ...material, layers } } }
})()
const runOf = (document: JobDocument): RunFull =>
  ({
    id: 'r1',
    document,
    scope: {},
    parentId: null,
    looks: {},
    photographed: { calibration: { camera: {} } },
  }) as unknown as RunFull

beforeEach(() => {
  fillBrowser()
  fakeServer({ 'GET /runs/r1/': {} })
  vi.stubGlobal('fetch', async () => new Response(new Blob(['jpeg'])))
  darkOnBed.mockImplementation(async (_job, { columns, rows }) => new Uint8Array(columns * rows))
})
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
  burnIn.mockReset()
})

describe('the photo after a run', () => {
  it('tells how dark an operation came out, and has it written down by one press', async () => {
    burnIn.mockResolvedValue({
      rgba: new Uint8ClampedArray(4),
      error: { dxMm: 0.1, dyMm: 0, alike: 0.9 },
      tones: [{ seen: 0.4312, forecast: 0.5, areaMm2: 90 }],
    })
    const onTone = vi.fn()
    shown(<PhotoAfter run={runOf(known)} onTone={onTone} />)
    expect((await screen.findByTestId(`seen-tone-${engrave}`)).textContent).toMatch(/came out 43 % dark; forecast 50 %/)
    expect(burnIn.mock.calls[0][6]).toHaveLength(1)
    expect(burnIn.mock.calls[0][6][0].contrast).toBe(0.7)
    fireEvent.click(screen.getByTestId(`write-tone-${engrave}`))
    expect(onTone).toHaveBeenCalledWith(engrave, 0.431)
  })

  it('says what is missing where no card was read from a photo', async () => {
    burnIn.mockResolvedValue({ rgba: new Uint8ClampedArray(4), error: undefined, tones: [] })
    shown(<PhotoAfter run={runOf(plain)} onTone={vi.fn()} />)
    expect(await screen.findByText(/once a card of trials of this material was read/)).toBeTruthy()
    expect(burnIn.mock.calls[0][6]).toEqual([])
  })
})
