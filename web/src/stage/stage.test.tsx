// @vitest-environment happy-dom
// A layer and a tool of tests: what comes later (a camera's photo, a view that turns) fits in without touching the stage.
import { ThemeProvider } from '@mui/material'
import { type Affine, composed, mapped, moving, SAME, turning } from '@neotaxis/core'
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react'
import { useState } from 'react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { hand, stagePage, wheel } from '../testing/stage-page.tsx'
import { makeTheme } from '../theme/theme.ts'
import type { Layer } from './layer.ts'
import { standUpright } from './layers/face.ts'
import { Stage } from './Stage.tsx'
import type { Spot, Tool } from './tool.ts'
import { useStage } from './use-stage.ts'

let page: ReturnType<typeof stagePage>
beforeEach(() => {
  page = stagePage()
})
afterEach(() => {
  cleanup()
  page.end()
})

const THEME = makeTheme('light')
const HOME = { x0: 0, y0: 0, x1: 200, y1: 100 }
const ROOM = { x: 0, top: 0, bottom: 0 }
// 200 mm on 800 px: 4 px on a mm, and 100 mm in the middle of 600 px.
const SCALE = 4
const TOP = 100

interface Props {
  readonly layers?: readonly Layer[]
  readonly tools?: readonly Tool[]
  readonly standing?: Affine
}

function Shown({ layers = [], tools = [], standing = SAME }: Props) {
  const stage = useStage({ standing, home: HOME, room: ROOM })
  return (
    <Stage stage={stage} layers={layers} tools={tools} label="stage" testId="stage" settled>
      <button type="button" onClick={stage.whole}>
        whole
      </button>
    </Stage>
  )
}

const show = (props: Props) => {
  const made = render(
    <ThemeProvider theme={THEME}>
      <Shown {...props} />
    </ThemeProvider>,
  )
  return { ...made, element: screen.getByTestId('stage') }
}

/** A photo of the bed by a camera: px of the photo, turned and small beside the bed. */
const PHOTO: Affine = composed(composed([0.1, 0, 0, 0.1, 0, 0], turning(30)), moving(50, 20))
const photo = (loaded = true): Layer => ({
  name: 'photo',
  space: PHOTO,
  paint: (context, at) => {
    context.transform(...at.map)
    context.drawImage({} as CanvasImageSource, 0, 0)
  },
  settled: () => loaded,
})

describe('a layer', () => {
  it('paints in its own space, wherever that lies, and leaves the next one as if it had not', () => {
    const bed: Layer = { name: 'bed', space: SAME, paint: (context) => context.fillRect(0, 0, 1, 1) }
    show({ layers: [photo(), bed] })
    const painted = page.frame()
    expect(painted.map(({ name }) => name)).toEqual(['drawImage', 'fillRect'])
    const [x, y] = mapped(painted[0].map as never, 300, 0)
    const [bx, by] = mapped(PHOTO, 300, 0)
    expect([x, y]).toEqual([expect.closeTo(SCALE * bx, 6), expect.closeTo(TOP + SCALE * by, 6)])
    expect(painted[1].map).toEqual([1, 0, 0, 1, 0, 0])
  })

  it.each([
    ['a space that is turned', turning(30)],
    ['one that is mirrored', [-1, 0, 0, 1, 200, 0] as Affine],
    ['one that is turned over and elsewhere', composed([1, 0, 0, -1, 0, 0], composed(turning(-70), moving(40, 9)))],
  ])('that is painted by rows sees all of the stage from %s', (_, space) => {
    const seen: [number, number][] = []
    let corners: readonly (readonly [number, number])[] = []
    show({
      layers: [
        {
          name: 'rows',
          space,
          paint: (context, at) => {
            const { view, size } = at.upright
            standUpright(context, at)
            context.fillRect(0, 0, size.width, size.height)
            // A place of the space is where its own axes say, turned.
            const [px, py] = [(30 - view.x) * view.scale, (20 - view.y) * view.scale]
            seen.push(
              [...mapped(at.upright.turn ?? SAME, px, py)] as [number, number],
              [...mapped(at.map, 30, 20)] as [number, number],
            )
            corners = [
              [0, 0],
              [size.width, 0],
              [0, size.height],
              [size.width, size.height],
            ].map(([x, y]) => mapped(at.upright.turn ?? SAME, x, y))
          },
        },
      ],
    })
    page.frame()
    expect(seen[0][0]).toBeCloseTo(seen[1][0], 6)
    expect(seen[0][1]).toBeCloseTo(seen[1][1], 6)
    // What is painted reaches to every corner of the stage.
    expect(Math.min(...corners.map(([x]) => x))).toBeLessThanOrEqual(1e-6)
    expect(Math.max(...corners.map(([x]) => x))).toBeGreaterThanOrEqual(800 - 1e-6)
    expect(Math.min(...corners.map(([, y]) => y))).toBeLessThanOrEqual(1e-6)
    expect(Math.max(...corners.map(([, y]) => y))).toBeGreaterThanOrEqual(600 - 1e-6)
  })

  it('says when it is not done, and may lie over the canvas', () => {
    const { element, rerender } = show({ layers: [photo(false)] })
    page.frame()
    expect(element.dataset.settled).toBe('false')
    const over: Layer = { name: 'name', space: PHOTO, over: ({ map }) => <p>{mapped(map, 0, 0)[0].toFixed(0)}</p> }
    rerender(
      <ThemeProvider theme={THEME}>
        <Shown layers={[photo(), over]} />
      </ThemeProvider>,
    )
    page.frame()
    expect(element.dataset.settled).toBe('true')
    expect(screen.getByText(String(50 * SCALE))).toBeTruthy()
  })

  it('may follow the pointer without the page being rendered', () => {
    const places: unknown[] = []
    const loupe: Layer = { name: 'loupe', space: SAME, followsPointer: true, paint: (_, { pointer }) => places.push(pointer) }
    const { element } = show({ layers: [loupe] })
    page.frame()
    hand(element).over(120, 90)
    page.frame()
    fireEvent.pointerLeave(element)
    page.frame()
    expect(places).toEqual([undefined, { px: 120, py: 90 }, undefined])
  })
})

describe('a space that stands upright', () => {
  it('is shown as its axes lie: the bed is turned under it', () => {
    const standing = composed(turning(15), moving(60, 30))
    const maps: Affine[] = []
    const layer = (space: Affine): Layer => ({ name: String(space), space, paint: (_, { map }) => maps.push(map) })
    show({ standing, layers: [layer(standing), layer(SAME)] })
    page.frame()
    expect(maps[0]).toEqual([SCALE, 0, 0, SCALE, -0, TOP])
    // The same place of the bed is at the same place of the screen, whichever space names it.
    const [x, y] = mapped(maps[1], ...mapped(standing, 12, 34))
    const [sx, sy] = mapped(maps[0], 12, 34)
    expect([x, y]).toEqual([expect.closeTo(sx, 9), expect.closeTo(sy, 9)])
  })
})

/** What a hand did with a tool, in the tool's own words. */
function told() {
  const words: string[] = []
  const at = ({ x, y }: Pick<Spot, 'x' | 'y'>): string => `${x.toFixed(1)},${y.toFixed(1)}`
  const tool = (more: Partial<Tool> = {}): Tool => ({
    name: 'toy',
    space: PHOTO,
    press: (spot) => {
      words.push(`press ${at(spot)}`)
      return {
        move: (to, { dx, dy }) => words.push(`move ${at(to)} by ${at({ x: dx, y: dy })}${to.shift ? ' straight' : ''}`),
        end: (to, moved) => words.push(`${moved ? 'dragged to' : 'pressed'} ${at(to)}`),
        cancel: () => words.push('given up'),
      }
    },
    ...more,
  })
  return { words, tool, at }
}
/** Where a place of the photo is on the screen. */
const onScreen = (x: number, y: number): readonly [number, number] => {
  const [bx, by] = mapped(PHOTO, x, y)
  return [SCALE * bx, TOP + SCALE * by]
}

describe('a tool', () => {
  it('is told of the hand in its own space; a tremble is a press', () => {
    const { words, tool } = told()
    const { element } = show({ tools: [tool()] })
    hand(element, { shiftKey: true }).drag(onScreen(100, 50), onScreen(110, 50), onScreen(150, 90))
    const [x, y] = onScreen(20, 20)
    hand(element).drag([x, y], [x + 2, y])
    expect(words).toEqual([
      'press 100.0,50.0',
      'move 110.0,50.0 by 10.0,0.0 straight',
      'move 150.0,90.0 by 50.0,40.0 straight',
      'dragged to 150.0,90.0',
      'press 20.0,20.0',
      expect.stringMatching(/^pressed/),
    ])
  })

  it('goes before the next one where it takes the press, and leaves it where it does not', () => {
    const { words, tool } = told()
    const shy = tool({ name: 'shy', press: ({ x }) => (x > 100 ? { end: () => words.push('shy') } : undefined) })
    const { element } = show({ tools: [shy, tool({ name: 'next' })] })
    hand(element).drag(onScreen(150, 10))
    hand(element).drag(onScreen(50, 10))
    expect(words).toEqual(['shy', 'press 50.0,10.0', 'pressed 50.0,10.0'])
  })

  it('is given up by Escape while it holds something, and by a finger more', () => {
    const { words, tool } = told()
    const { element } = show({ tools: [tool({ key: ({ key }) => words.push(key) > 0 })] })
    const mouse = hand(element)
    mouse.press(...onScreen(10, 10))
    mouse.move(...onScreen(60, 10))
    fireEvent.keyDown(element, { key: 'Escape' })
    mouse.move(...onScreen(90, 10))
    mouse.lift(...onScreen(90, 10))
    expect(words).toEqual(['press 10.0,10.0', expect.stringMatching(/^move/), 'given up'])
    fireEvent.keyDown(element, { key: 'Escape' })
    expect(words.at(-1)).toBe('Escape')
  })

  it('does not get what is pressed for itself: buttons and fields over the stage', () => {
    const { words, tool } = told()
    show({ tools: [tool()] })
    hand(screen.getByText('whole')).drag([400, 300])
    expect(words).toEqual([])
  })

  it('has grips: the nearest in reach, then the last area; by the keyboard too', () => {
    const done: string[] = []
    const grip = (
      id: string,
      at: Tool['grips'] extends readonly (infer G)[] | undefined ? (G extends { at: infer A } ? A : never) : never,
    ) => ({
      id,
      at,
      look: 'round' as const,
      cursor: 'grab',
      label: id,
      hold: () => ({ end: (_: Spot, moved: boolean) => done.push(`${id}${moved ? ' moved' : ''}`) }),
      nudge: (dx: number, dy: number, far: boolean) => done.push(`${id} ${dx} ${dy}${far ? ' far' : ''}`),
      remove: () => done.push(`${id} gone`),
    })
    const grips = [
      grip('all', { x0: 0, y0: 0, x1: 300, y1: 300 }),
      grip('part', { x0: 100, y0: 100, x1: 300, y1: 300 }),
      grip('corner', [100, 100]),
      grip('beside it', [130, 100]),
    ]
    const { element } = show({ tools: [{ name: 'toy', space: PHOTO, grips }] })
    hand(element).drag(onScreen(118, 104))
    hand(element).drag(onScreen(104, 96), onScreen(204, 96))
    hand(element).drag(onScreen(200, 200))
    hand(element).drag(onScreen(50, 250))
    expect(done).toEqual(['beside it', 'corner moved', 'part', 'all'])
    const corner = screen.getByRole('button', { name: 'corner' })
    fireEvent.keyDown(corner, { key: 'ArrowLeft' })
    fireEvent.keyDown(corner, { key: 'ArrowDown', shiftKey: true })
    fireEvent.keyDown(corner, { key: 'Delete' })
    expect(done.slice(4)).toEqual(['corner -1 0', 'corner 0 1 far', 'corner gone'])
  })

  it('that turns a view has drag, wheel and keys of its own', () => {
    function Turning() {
      const [deg, setDeg] = useState(0)
      const [near, setNear] = useState(1)
      const view: Tool = {
        name: 'turn the view',
        space: SAME,
        press: () => ({ slack: 0, move: (_, { dx }) => setDeg(Math.round(dx)), cancel: () => setDeg(0) }),
        wheel: (_, steps) => {
          setNear((now) => now * (steps > 0 ? 2 : 0.5))
          return true
        },
        key: ({ key }) => {
          if (key === 'Home') setDeg(0)
          return key === 'Home'
        },
        over: () => (
          <p>
            {deg}° {near}
          </p>
        ),
      }
      return <Shown tools={[view]} />
    }
    render(
      <ThemeProvider theme={THEME}>
        <Turning />
      </ThemeProvider>,
    )
    const element = screen.getByTestId('stage')
    hand(element).drag([100, 100], [180, 100], [300, 100])
    wheel(element, { deltaY: -10, clientX: 5, clientY: 5 })
    expect(screen.getByText('50° 2')).toBeTruthy()
    fireEvent.keyDown(element, { key: 'Home' })
    expect(screen.getByText('0° 2')).toBeTruthy()
  })
})

describe('what no tool takes', () => {
  const maps: Affine[] = []
  const watch: Layer = { name: 'watch', space: SAME, paint: (_, { map }) => maps.push(map) }
  const view = (): Affine => {
    page.frame()
    return maps.at(-1)!
  }

  it('moves the view with the hand', () => {
    const { words, tool } = told()
    const { element } = show({ layers: [watch], tools: [{ ...tool(), press: () => undefined }] })
    hand(element).drag([100, 100], [130, 90], [150, 60])
    expect(view().slice(4)).toEqual([expect.closeTo(50, 6), expect.closeTo(TOP - 40, 6)])
    expect(words).toEqual([])
  })

  it('zooms by the wheel around the pointer, pans with Shift, and is whole again', async () => {
    const { element } = show({ layers: [watch] })
    wheel(element, { deltaY: -200, clientX: 400, clientY: 300 })
    const [a, , , , e, f] = view()
    expect(a).toBeGreaterThan(SCALE * 1.2)
    expect([400 - e, 300 - f].map((px) => px / a)).toEqual([expect.closeTo(100, 6), expect.closeTo(50, 6)])
    wheel(element, { deltaY: 40, shiftKey: true, clientX: 400, clientY: 300 })
    expect(view()[4]).toBeCloseTo(e - 40, 6)
    await act(async () => screen.getByText('whole').click())
    expect(view()).toEqual([SCALE, 0, 0, SCALE, -0, TOP])
  })
})
