// @vitest-environment happy-dom
// Artwork around what turns: upright, opposite a handle, so often that it closes; and the face it is wound from.
import { type JobDocument, mainPiece, placeOf, placesOf, ROTARIES, withEnds, withPiece, withRound } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { act, fireEvent, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { beforeEach, expect, it, vi } from 'vitest'
import { useSelector } from '../../store/hooks.ts'
import { jobOnScreen } from '../../store/job-on-screen.ts'
import { opened } from '../../store/job-slice.ts'
import { store } from '../../store/store.ts'
import { atShop } from '../../testing/at-shop.ts'
import { shown } from '../../testing/fake-server.tsx'
import { AroundFields } from './AroundFields.tsx'
import { textureView } from './face-texture.ts'
import { roundGeometry } from './round-geometry.ts'

vi.mock('../../workers/engine.ts', () => ({ onWorkerDeath: () => () => {} }))
const { serve } = atShop()
const AROUND = Math.PI * 80
const handle = { name: 'handle', outline: { kind: 'rect', widthMm: 60, heightMm: 20 }, pose: { xMm: 30, yMm: 10 } } as const

function cup(): JobDocument {
  const round = withRound(sampleJob({ picture: squarePicture(40, 0), widthMm: 40 }), ROTARIES.rollers, 80, 120)
  return withPiece(withEnds(round, { lip: 'right' }), { keepOuts: { handle } })
}
function Fields() {
  const job = useSelector((state) => state.job.document) as JobDocument
  const { xMm, yMm, widthMm, heightMm } = placeOf(job, 'source')
  return <AroundFields job={job} node="source" box={{ x0: xMm, y0: yMm, x1: xMm + widthMm, y1: yMm + heightMm }} />
}
const open = (job: JobDocument): void =>
  act(() => void store.dispatch(opened({ id: `a${Math.random()}`, revision: 0, document: job, edits: [], unsent: [] })))
const now = (): JobDocument => jobOnScreen()!
const press = (name: RegExp): void => void fireEvent.click(screen.getByRole('button', { name }))

beforeEach(() => {
  serve({})
  open(cup())
})

it('is turned upright to the lip, once around, across, and put by the handle', () => {
  shown(<Fields />)
  press(/Upright: its top at the lip/)
  expect(placeOf(now(), 'source').deg).toBe(90)
  press(/^Opposite “handle”/)
  const middle = (): number => placeOf(now(), 'source').yMm + placeOf(now(), 'source').heightMm / 2
  expect(middle()).toBeCloseTo(20 + AROUND / 2, 1)
  press(/^On “handle”/)
  expect(middle()).toBeCloseTo(20, 1)
  press(/To the other side/)
  expect(middle()).toBeCloseTo(20 + AROUND / 2, 1)
  press(/Once around/)
  expect(placeOf(now(), 'source').heightMm).toBeCloseTo(AROUND, 1)
})

it('says how it would close, closes in one press, and is changed by how often and in how many bands', async () => {
  shown(<Fields />)
  expect(screen.getByTestId('close-by-size').textContent).toBe('6 times, 105 % as large')
  expect(screen.getByTestId('close-by-gap').textContent).toBe('6 times, gaps of 1.9 mm')
  fireEvent.click(screen.getByTestId('close-by-gap'))
  expect(placesOf(now(), 'source')).toHaveLength(6)
  expect(screen.getByText('1.89 mm from one to the next, at the seam too.')).toBeDefined()
  const type = async (label: string, text: string): Promise<void> => {
    const field = screen.getByRole('textbox', { name: label })
    await userEvent.clear(field)
    await userEvent.type(field, `${text}{Enter}`)
  }
  await type('Times around', '5')
  expect(placesOf(now(), 'source')).toHaveLength(5)
  await type('Bands', '2')
  expect(placesOf(now(), 'source')).toHaveLength(10)
  await type('Times around', '7')
  expect(screen.getByText(/mm over each other/)).toBeDefined()
})

it('is sized by what an eye sees from the front, and refused where nothing looks as wide', async () => {
  shown(<Fields />)
  const field = screen.getByRole('textbox', { name: 'Seen width' })
  await userEvent.clear(field)
  await userEvent.type(field, '60{Enter}')
  expect(placeOf(now(), 'source').heightMm).toBeCloseTo(80 * Math.asin(0.75), 1)
  const before = now()
  await userEvent.clear(field)
  await userEvent.type(field, '90{Enter}')
  await screen.findByText(/nothing looks wider/)
  expect(now()).toBe(before)
})

it('that lies a turn beside the face is brought round', () => {
  const job = cup()
  const { source } = job.placements
  open({ ...job, placements: { ...job.placements, source: { ...source, yMm: source.yMm + 2 * AROUND } } })
  shown(<Fields />)
  fireEvent.click(screen.getByTestId('bring-round'))
  expect(placeOf(now(), 'source').yMm).toBeCloseTo(source.yMm, 1)
  expect(screen.queryByTestId('bring-round')).toBeNull()
})

it('is wound so that the face lies before the eye as on the stage, its seam behind', () => {
  const geometry = roundGeometry([40, 40], 120)
  const [place, uv] = [geometry.getAttribute('position'), geometry.getAttribute('uv')]
  const at = (u: number, v: number): readonly number[] => {
    for (let i = 0; i < uv.count; i++)
      if (Math.abs(uv.getX(i) - u) < 1e-6 && Math.abs(uv.getY(i) - v) < 1e-6) return [place.getX(i), place.getY(i), place.getZ(i)]
    throw new Error('There is no such place.')
  }
  const near = (place: readonly number[], to: readonly number[]): void =>
    place.forEach((v, i) => void expect(v).toBeCloseTo(to[i], 4))
  // The middle of the face, left; a quarter farther down; the seam.
  near(at(0, 0.5), [-60, 0, 40])
  near(at(1, 0.25), [60, -40, 0])
  near(at(0, 1), [-60, 0, -40])
  near(at(0, 0), [-60, 0, -40])
  const { widthPx, heightPx, pxPerMm } = textureView(cup())
  expect(Math.max(widthPx, heightPx)).toBeLessThanOrEqual(2048)
  expect(heightPx / pxPerMm).toBeCloseTo(AROUND, 0)
  expect(mainPiece(cup()).surface.kind).toBe('cylinder')
})
