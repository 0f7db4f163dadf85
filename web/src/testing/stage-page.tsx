import { createEvent, fireEvent } from '@testing-library/react'
import { vi } from 'vitest'

/** A call of the canvas' context, with the map that held: a, b, c, d, e, f. */
export interface Painted {
  readonly name: string
  readonly args: readonly unknown[]
  readonly map: readonly number[]
}

type Map6 = readonly [number, number, number, number, number, number]
const after = ([a, b, c, d, e, f]: Map6, [A, B, C, D, E, F]: Map6): Map6 => [
  a * A + c * B,
  b * A + d * B,
  a * C + c * D,
  b * C + d * D,
  a * E + c * F + e,
  b * E + d * F + f,
]

/**
 * Makes the page of a test one that a stage can stand on: of a size, with frames that come when they are called for, and a canvas
 * that writes down what is painted.
 */
export function stagePage({ width = 800, height = 600 } = {}) {
  let painted: Painted[] = []
  let map: Map6 = [1, 0, 0, 1, 0, 0]
  const kept: Map6[] = []
  const context = new Proxy({} as Record<string, unknown>, {
    get: (own, name: string) => {
      if (name in own) return own[name]
      return (...args: number[]) => {
        if (name === 'setTransform') map = args as unknown as Map6
        else if (name === 'transform') map = after(map, args as unknown as Map6)
        else if (name === 'translate') map = after(map, [1, 0, 0, 1, args[0], args[1]])
        else if (name === 'save') kept.push(map)
        else if (name === 'restore') map = kept.pop() ?? map
        else if (name === 'clearRect') painted = []
        else painted.push({ name, args, map })
        return name === 'measureText' ? { width: 10 } : undefined
      }
    },
    set: (own, name: string, value) => {
      own[name] = value
      return true
    },
  })
  const frames: FrameRequestCallback[] = []
  vi.stubGlobal('requestAnimationFrame', (frame: FrameRequestCallback) => frames.push(frame))
  vi.stubGlobal(
    'ResizeObserver',
    class {
      readonly told: (entries: unknown[]) => void
      constructor(told: (entries: unknown[]) => void) {
        this.told = told
      }
      observe(): void {
        this.told([{ contentRect: { width, height } }])
      }
      disconnect(): void {}
    },
  )
  vi.spyOn(HTMLCanvasElement.prototype, 'getContext').mockReturnValue(context as never)
  return {
    /** What the next frame paints. */
    frame: (): readonly Painted[] => {
      for (const each of frames.splice(0)) each(0)
      return painted
    },
    end: (): void => {
      vi.unstubAllGlobals()
      vi.restoreAllMocks()
    },
  }
}

/** A hand on an element: presses, goes through places and lets go, CSS px. */
export function hand(element: Element, keys: { shiftKey?: boolean; altKey?: boolean } = {}) {
  const at = ([clientX, clientY]: readonly [number, number], buttons: number) => ({
    clientX,
    clientY,
    buttons,
    button: 0,
    pointerId: 1,
    pointerType: 'mouse',
    ...keys,
  })
  return {
    press: (x: number, y: number) => fireEvent.pointerDown(element, at([x, y], 1)),
    move: (x: number, y: number) => fireEvent.pointerMove(element, at([x, y], 1)),
    lift: (x: number, y: number) => fireEvent.pointerUp(element, at([x, y], 0)),
    over: (x: number, y: number) => fireEvent.pointerMove(element, at([x, y], 0)),
    drag: (...places: (readonly [number, number])[]) => {
      fireEvent.pointerDown(element, at(places[0], 1))
      for (const place of places.slice(1)) fireEvent.pointerMove(element, at(place, 1))
      fireEvent.pointerUp(element, at(places[places.length - 1], 0))
    },
  }
}

/** The wheel over a place, CSS px. */
export function wheel(element: Element, init: { deltaY: number; clientX: number; clientY: number; shiftKey?: boolean }): void {
  const event = createEvent.wheel(element, init)
  // The page of a test leaves these out.
  for (const name of ['clientX', 'clientY', 'shiftKey'] as const)
    Object.defineProperty(event, name, { value: init[name] ?? false })
  fireEvent(element, event)
}
