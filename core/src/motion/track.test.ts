import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { askedFor } from '../edits/steps-edits.ts'
import { withPlace } from '../job/document/document.ts'
import { MACHINES } from '../material/catalogue.ts'
import { measureJob } from '../plan/plan.ts'
import { recordJob } from '../plan/record.ts'
import { greyPicture, onRectangle, sampleJob, supplyWith } from '../testing/sample-job.ts'
import { headAt, momentsAt, moveAt, partOf, timeOfLines, trackSeconds } from './track.ts'

const picture = greyPicture(60, 60, (x, y) => (Math.hypot(x - 30, y - 30) < 22 ? 60 : 255))
const base = sampleJob({ picture, widthMm: 20, engrave: { intervalMm: 0.2 } })
const supply = supplyWith(picture)

describe.each(['bench-60', 'scan-20'])('the track of a job on %s', (id) => {
  const machine = MACHINES.find((m) => m.id === id)!
  const job = withPlace(onRectangle({ ...base, machine }, { xMm: 0, yMm: 0 }), 'source', { xMm: 20, yMm: 20 })
  const track = recordJob(job, supply).track

  it('has a rising time for every move, and takes as long as the plan says', () => {
    expect(track.seconds.length).toBe(track.count)
    for (let i = 1; i < track.count; i++) expect(track.seconds[i]).toBeGreaterThanOrEqual(track.seconds[i - 1])
    expect(trackSeconds(track)).toBeCloseTo(measureJob(job, supply).seconds, 6)
    expect(track.parts.map((part) => part.id)).toEqual(['engrave', 'cut', 'return'])
  })

  it('finds the move of any time, and a head that is on it', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), (share) => {
        const time = share * trackSeconds(track)
        const move = moveAt(track, time)
        expect(move === 0 || track.seconds[move - 1] <= time).toBe(true)
        expect(move === track.count || track.seconds[move] > time).toBe(true)
        const { x, y } = headAt(track, time)
        expect(x).toBeGreaterThanOrEqual(-1e-9)
        expect(y).toBeLessThanOrEqual(machine.axes.y.travelMm + 1e-9)
      }),
    )
  })

  it('knows at which time a line of the program is driven', () => {
    let text = ''
    recordJob(job, supply, (bytes) => {
      text += new TextDecoder().decode(bytes)
    }).track
    const lines = text.split('\n').filter((line) => line !== '' && !line.startsWith(';'))
    // The last move of the picture, by its place in the text.
    const cut = track.parts[1]
    expect(lines[cut.linesBefore]).toMatch(/^G0X/)
    expect(timeOfLines(track, cut.linesBefore)).toBe(track.seconds[cut.firstMove - 1])
    expect(timeOfLines(track, lines.length)).toBe(trackSeconds(track))
    expect(timeOfLines(track, 0)).toBe(0)
  })

  it('tells when a place is burned, and that an empty one never is', () => {
    const i = track.parts[1].firstMove + 3
    const moments = momentsAt(track, track.x[i] / 1000, track.y[i] / 1000, 0.05)
    expect(moments).toHaveLength(1)
    expect(moments[0].from).toBeLessThanOrEqual(track.seconds[i])
    expect(partOf(track, moveAt(track, (moments[0].from + moments[0].to) / 2))).toBe(1)
    expect(momentsAt(track, 1, 1, 0.3)).toEqual([])
  })
})

describe('a pause before an operation', () => {
  it('brings the head away and the machine to rest, in the program and in the time', () => {
    const paused = askedFor(base, 'cut', { kind: 'pause', text: 'Wipe the soot off' })
    let text = ''
    const track = recordJob(paused, supply, (bytes) => {
      text += new TextDecoder().decode(bytes)
    }).track
    expect(text).toContain('; pause: Wipe the soot off')
    expect(text).toMatch(/G0X0Y0\nM5\nM0\nM8?\n?M4\n|G0X0Y0\nM5\nM9\nM0\nM8\nM4\n/)
    const cut = track.parts[1]
    const lines = text.split('\n').filter((line) => line !== '' && !line.startsWith(';'))
    expect(lines[cut.linesBefore - 1]).toBe('M4')
    expect(trackSeconds(track)).toBeCloseTo(measureJob(paused, supply).seconds, 6)
    expect(trackSeconds(track)).toBeGreaterThan(trackSeconds(recordJob(base, supply).track))
  })
})
