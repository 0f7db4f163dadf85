// A camera at the head, against photos of a simulated one of which nobody here knows how it hangs.
import {
  cornerSeen,
  darkSpots,
  fieldOf,
  type GreyPicture,
  mapped,
  middleOf,
  poseMap,
  StitchedSheet,
  scanStops,
  seenMarks,
  sightOf,
} from '@neotaxis/core'
import { besideHead, rays, type Thing } from '@neotaxis/stand-ins'
import { describe, expect, it } from 'vitest'
import { BED, CARD, disc, known, type Point, SIZE, seenFrom } from './testing/head-camera.ts'

describe.each(process.env.NEOTAXIS_CAMPAIGN ? [1, 2, 3] : [2])('a camera at the head, hung as seed %i says', (seed) => {
  const optics = besideHead(BED, seed)
  const { camera, p95Mm } = known(optics)

  it('is known from one mark that it saw from many places, within hundredths of a millimetre', () => {
    expect(p95Mm).toBeLessThan(0.02)
    const { columns, ways } = rays(optics, SIZE.widthPx, SIZE.heightPx, 54)
    const off = Array.from({ length: ways.length / 2 }, (_, i) => {
      const at = sightOf(camera).place((i % columns) * 54, Math.floor(i / columns) * 54, 0)!
      return Math.hypot(
        at[0] - optics.over[0] - ways[2 * i] * optics.highMm,
        at[1] - optics.over[1] - ways[2 * i + 1] * optics.highMm,
      )
    }).sort((a, b) => a - b)
    console.info(`places off: p95 ${off[Math.floor(0.95 * off.length)].toFixed(4)} mm, most ${off.at(-1)!.toFixed(4)} mm`)
    expect(off[Math.floor(0.95 * off.length)]).toBeLessThan(0.03)
    const { widthMm, heightMm } = fieldOf(camera)
    expect(widthMm).toBeGreaterThan(25)
    expect(heightMm).toBeGreaterThan(18)
  })

  it('finds marks and corners as closely', () => {
    const [mx, my] = middleOf(camera)
    const off: number[] = []
    const places: Point[] = [
      [300.13, 201.77],
      [311.4, 190.2],
    ]
    for (const [i, place] of places.entries()) {
      const sheet: Thing = { ...CARD, ink: [disc(place[0], place[1], 3)] }
      // The job thinks it lies a little beside.
      const thought: Point = [place[0] + 1.3, place[1] - 0.8]
      const head: Point = [thought[0] - mx, thought[1] - my]
      const photo = seenFrom(optics, head, [sheet], 20 + i)
      const [{ found }] = seenMarks(photo, camera, [[mx, my]], { heightMm: 0, reachMm: 6 })
      off.push(Math.hypot(head[0] + found![0] - place[0], head[1] + found![1] - place[1]))
    }
    for (const [i, look] of (['ply', 'card', 'driftwood', 'acrylic', 'slate'] as const).entries()) {
      const deg = 2.3 - i
      const [cos, sin] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)]
      const corner: Point = [150.37 + i, 140.81]
      const on = (x: number, y: number): Point => [corner[0] + cos * x - sin * y, corner[1] + sin * x + cos * y]
      const piece: Thing = { rings: [[on(0, 0), on(120, 0), on(120, 90), on(0, 90)].flat()], thicknessMm: 3, look }
      const thought: Point = [corner[0] - 1.1, corner[1] + 0.9]
      const head: Point = [thought[0] - mx, thought[1] - my]
      // The head is in focus on its face: as high over that as over the mark.
      const photo = seenFrom({ ...optics, highMm: optics.highMm + 3 }, head, [piece], 40 + i)
      const found = cornerSeen(
        photo,
        camera,
        [mx, my],
        [
          [1, 0],
          [0, 1],
        ],
        0,
      )
      const by = found ? Math.hypot(head[0] + found[0] - corner[0], head[1] + found[1] - corner[1]) : Number.NaN
      console.info(`${look}: corner off by ${by.toFixed(4)} mm`)
      off.push(by)
    }
    console.info(`marks off by ${off.slice(0, 2).map((v) => v.toFixed(4))} mm`)
    expect(Math.max(...off)).toBeLessThan(0.03)
  })

  it('puts a sheet together from what it sees of it, true to scale', () => {
    const pose = { xMm: 210, yMm: 130, deg: 3 }
    const size = { widthMm: 70, heightMm: 40 }
    const map = poseMap(pose, size)
    const dots: Point[] = [
      [5, 5],
      [65, 6],
      [34, 21],
      [6, 35],
      [64, 36],
    ]
    const ink = dots.map(([x, y]) => disc(...mapped(map, x, y), 2))
    const sheet = new StitchedSheet({ pose, size }, 20)
    const stops = scanStops({ pose, size }, camera)
    expect(stops.length).toBeGreaterThan(5)
    for (const [i, head] of stops.entries())
      sheet.add(seenFrom(optics, head, [{ ...CARD, look: 'paper', ink }], 60 + i), camera, head)
    const { picture, seen } = sheet.picture()
    expect(seen).toBe(1)
    expect(picture).toMatchObject({ widthPx: 1400, heightPx: 800 })
    const spots = darkSpots(picture as GreyPicture)
    const off = dots.map(([x, y]) => Math.min(...spots.map(({ u, v }) => Math.hypot(u / 20 - x, v / 20 - y))))
    console.info(`in the finer scan dots are off by ${off.map((v) => v.toFixed(4))} mm`)
    expect(Math.max(...off)).toBeLessThan(0.03)
    // Paper is white, and no seam is seen on it.
    const dark = (picture.samples as Uint8Array).filter((v) => v < 215).length / picture.samples.length
    expect(dark).toBeLessThan(0.02)
  })
})
