// Looks come from the theme and from parts with names: a screen says what a thing is, not how many pixels it has.
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { makeTheme } from './theme.ts'
import { EDGE, SPACE, TYPE } from './tokens.ts'

const src = join(import.meta.dirname, '..')
const screens = readdirSync(src, { recursive: true, encoding: 'utf8' })
  .filter((path) => /^(features|routes|stage|processes)\/.*\.tsx$/.test(path) && !path.includes('.test.'))
  .map((path) => ({ path, text: readFileSync(join(src, path), 'utf8') }))

/** Places where a pattern stands in a screen. */
const found = (pattern: RegExp): string[] =>
  screens.flatMap(({ path, text }) =>
    text.split('\n').flatMap((line, n) => (pattern.test(line) ? [`${path}:${n + 1} ${line.trim()}`] : [])),
  )

describe('the screens', () => {
  it('take sizes and weights of type, and the roundness of corners, from the tokens', () => {
    expect(found(/(fontSize|fontWeight|borderRadius): ?[\d.]/)).toEqual([])
  })

  it('take colours from the theme; only what is drawn on a canvas has its own', () => {
    expect(found(/(color|[bB]ackground(Color)?|bgcolor|borderColor): ?'#/)).toEqual([])
  })

  it('have few style objects of their own, and no more than yesterday', () => {
    const objects = screens.reduce((sum, { text }) => sum + (text.match(/\bsx=\{/g)?.length ?? 0), 0)
    expect(objects).toBeLessThanOrEqual(210)
  })
})

describe('both themes', () => {
  const [light, dark] = [makeTheme('light'), makeTheme('dark')]
  /** Relative luminance (WCAG 2.2). */
  const luminance = (hex: string): number => {
    const [r, g, b] = [1, 3, 5].map((at) => {
      const v = Number.parseInt(hex.slice(at, at + 2), 16) / 255
      return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4
    })
    return 0.2126 * r + 0.7152 * g + 0.0722 * b
  }
  const contrast = (a: string, b: string): number => {
    const [x, y] = [luminance(a), luminance(b)].sort((p, q) => q - p)
    return (x + 0.05) / (y + 0.05)
  }

  it('are made of the same tokens, and differ only in colours', () => {
    expect(light.typography.h2.fontSize).toBe(TYPE.title)
    expect(dark.typography.h2).toEqual(light.typography.h2)
    expect(dark.shape).toEqual(light.shape)
    expect(Object.keys(dark.palette.shop)).toEqual(Object.keys(light.palette.shop))
    const steps = Object.values(SPACE)
    expect(steps).toEqual([...steps].sort((a, b) => a - b))
    expect(Object.values(EDGE).every((edge) => edge >= 0)).toBe(true)
  })

  it.each([light, dark])('have words that can be read on every ground: 4.5 : 1', ({ palette }) => {
    const grounds = [palette.shop.surround, palette.shop.bar, palette.shop.panel, palette.shop.raised, palette.shop.selected]
    const inks = [
      palette.text.primary,
      palette.text.secondary,
      palette.primary.main,
      palette.error.main,
      palette.shop.ask,
      palette.shop.hot,
    ]
    for (const ground of grounds)
      for (const ink of inks) expect(contrast(ink, ground), `${ink} on ${ground}`).toBeGreaterThan(4.5)
  })
})
