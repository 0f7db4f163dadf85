// @vitest-environment happy-dom
// The tools of the picture bench on a real stage, by the hand: without a page that computes.
import { SAME } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { act, cleanup, fireEvent, screen } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { Stage } from '../../stage/Stage.tsx'
import type { Tool } from '../../stage/tool.ts'
import { useStage } from '../../stage/use-stage.ts'
import { closed, opened } from '../../store/job-slice.ts'
import { store } from '../../store/store.ts'
import { shown } from '../../testing/fake-server.tsx'
import { hand, stagePage } from '../../testing/stage-page.tsx'
import { benchSpaces } from './bench-spaces.ts'
import { paintMask } from './split-layers.ts'
import { useEdge } from './use-edge.tsx'
import { croppedBy } from './use-framing-tool.tsx'
import { type MaskHand, useMaskTool } from './use-mask-tool.tsx'

vi.mock('../../workers/engine.ts', () => ({ onWorkerDeath: () => () => {} }))

const sample = sampleJob({ picture: squarePicture(20, 5) })
const job = {
  ...sample,
  nodes: {
    ...sample.nodes,
    dots: { ...sample.nodes.dots, masks: { m: { feather: 0, invert: false, parts: {}, order: [] } } },
  },
} as unknown as typeof sample
// 200 × 200 px on 20 mm: on a stage of 800 × 600 a px of the picture is 3 px of the screen, from 100 on.
const PICTURE = { widthPx: 200, heightPx: 200 }
const PLACE = { of: 'source', on: 'piece', xMm: 0, yMm: 0, widthMm: 20, heightMm: 20 }
const spaces = benchSpaces(PICTURE, [], PLACE, SAME)
const HOME = { x0: 0, y0: 0, x1: 20, y1: 20 }
const ROOM = { x: 0, top: 0, bottom: 0 }
const BRUSH: MaskHand = { tool: 'brush', add: true, radius: 6, tolerance: 0.1 }

function Bench({ mask }: { readonly mask: MaskHand }) {
  const stage = useStage({ standing: SAME, home: HOME, room: ROOM })
  const { edge, tool, layer } = useEdge(SAME, HOME, 'Edge', { raised: '#fff' })
  const drawn = useMaskTool(spaces, { node: 'dots', mask: 'm', hand: mask })
  const tools: Tool[] = [tool, ...(drawn ? [drawn] : [])]
  return (
    <Stage stage={stage} layers={[layer]} tools={tools} label="bench" testId="bench" settled>
      <p data-testid="edge">{edge.toFixed(2)}</p>
    </Stage>
  )
}

let page: ReturnType<typeof stagePage>
beforeEach(() => {
  page = stagePage()
  act(() => void store.dispatch(opened({ id: 'j', revision: 0, document: job, edits: [], unsent: [] })))
})
afterEach(() => {
  cleanup()
  act(() => void store.dispatch(closed()))
  page.end()
})
const show = (mask: MaskHand): HTMLElement => {
  shown(<Bench mask={mask} />)
  return screen.getByTestId('bench')
}
const edits = (): string[] => store.getState().job.history.done.map(({ name }) => name)

describe('the edge between source and burn', () => {
  it('is taken hold of before anything is painted; beside it the brush paints', () => {
    const bench = show(BRUSH)
    hand(bench).drag([400, 200], [460, 200], [520, 210])
    expect(screen.getByTestId('edge').textContent).toBe('0.65')
    expect(edits()).toEqual([])
    hand(bench).drag([250, 200], [280, 200], [300, 210])
    expect(screen.getByTestId('edge').textContent).toBe('0.65')
    expect(edits()).toEqual(['mask: stroke'])
  })

  it('is moved by arrows too, and never out of the picture', () => {
    show(BRUSH)
    const edge = screen.getByRole('slider', { name: 'Edge' })
    fireEvent.keyDown(edge, { key: 'ArrowLeft' })
    expect(screen.getByTestId('edge').textContent).toBe('0.48')
    for (let n = 0; n < 60; n++) fireEvent.keyDown(edge, { key: 'ArrowRight' })
    expect(screen.getByTestId('edge').textContent).toBe('0.98')
  })
})

describe('a mask', () => {
  const parts = (): { kind: string; points?: readonly number[]; x?: number; width?: number }[] => {
    const node = store.getState().job.document!.nodes.dots as unknown as { masks: Record<string, { parts: object }> }
    return Object.values(node.masks.m.parts) as never
  }

  it('is painted in px of the source', () => {
    hand(show(BRUSH)).drag([160, 120], [190, 120], [220, 150])
    expect(parts()).toMatchObject([{ kind: 'brush', points: [20, 40, 30, 40, 40, 50] }])
  })

  it('is a box that is drawn, whichever way; a mere press is none', () => {
    const bench = show({ ...BRUSH, tool: 'rectangle' })
    hand(bench).drag([250, 150], [250, 150])
    expect(edits()).toEqual([])
    hand(bench).drag([310, 210], [250, 150], [190, 120])
    expect(parts()).toMatchObject([{ kind: 'rectangle', x: 30, y: 40, width: 40, height: 30 }])
  })

  it('is closed by Enter, by a double click, or by its first point; Backspace takes a point back, Escape all', () => {
    const bench = show({ ...BRUSH, tool: 'polygon' })
    const mouse = hand(bench)
    const press = (x: number, y: number): void => mouse.drag([x, y])
    for (const [x, y] of [
      [160, 120],
      [250, 120],
      [250, 210],
      [300, 300],
    ])
      press(x, y)
    fireEvent.keyDown(bench, { key: 'Backspace' })
    fireEvent.keyDown(bench, { key: 'Enter' })
    expect(parts()).toMatchObject([{ kind: 'polygon', points: [20, 40, 50, 40, 50, 70] }])
    press(160, 120)
    press(250, 120)
    fireEvent.keyDown(bench, { key: 'Escape' })
    fireEvent.keyDown(bench, { key: 'Enter' })
    expect(edits()).toEqual(['mask: polygon'])
    for (const [x, y] of [
      [160, 120],
      [250, 120],
      [250, 210],
      [162, 121],
    ])
      press(x, y)
    expect(edits()).toHaveLength(2)
  })
})

describe('a crop', () => {
  const crop = { kind: 'crop', on: true, x: 20, y: 30, width: 100, height: 50 } as const
  it('is pulled by borders and corners, and stays within its frame', () => {
    expect(croppedBy(crop, [1, 0], [200, 0], PICTURE, null)).toEqual({ x: 20, y: 30, width: 180, height: 50 })
    expect(croppedBy(crop, [-1, -1], [-50, 40], PICTURE, null)).toEqual({ x: 0, y: 70, width: 120, height: 10 })
    expect(croppedBy(crop, [0, 0], [-90, 500], PICTURE, null)).toEqual({ x: 0, y: 150 })
    expect(croppedBy(crop, [1, 0], [-300, 0], PICTURE, null)).toMatchObject({ width: 4 })
  })

  it('keeps its ratio where that is wanted, as far as the picture goes', () => {
    const kept = croppedBy(crop, [1, 0], [60, 0], PICTURE, 0.5)
    expect(kept).toMatchObject({ width: 160, height: 80 })
    const most = croppedBy(crop, [1, 1], [900, 900], PICTURE, 2) as { width: number; height: number; y: number }
    expect(most.height / most.width).toBe(2)
    expect(most.height).toBeLessThanOrEqual(200)
    expect(most.y + most.height).toBeLessThanOrEqual(200)
  })
})

describe('a mask', () => {
  it('hides nothing of the burn: it is whole over the source and pale beyond the edge', () => {
    const seen: (readonly [from: number, wide: number, alpha: number])[] = []
    let clip: readonly [number, number] = [0, 0]
    const kept: number[] = []
    const context = {
      globalAlpha: 1,
      save: () => kept.push(context.globalAlpha),
      restore: () => {
        context.globalAlpha = kept.pop()!
      },
      beginPath: () => {},
      rect: (x: number, _y: number, wide: number) => {
        clip = [x, wide]
      },
      clip: () => {},
    }
    paintMask(context as never, { size: { width: 800, height: 600 } }, 0.25, () => seen.push([...clip, context.globalAlpha]))
    expect(seen.map(([from, wide]) => [from, wide])).toEqual([
      [0, 200],
      [200, 600],
    ])
    expect(seen[0][2]).toBe(1)
    expect(seen[1][2]).toBeLessThan(0.35)
    expect(context.globalAlpha).toBe(1)
  })
})
