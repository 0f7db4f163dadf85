import { describe, expect, it } from 'vitest'
import { checkJob } from '../reading/check-job.ts'
import { sampleJob, squarePicture } from '../testing/sample-job.ts'
import { withTraceMode } from './trace-edits.ts'

const sample = sampleJob({ picture: squarePicture(20, 5) })
const job = { ...sample, operations: { ...sample.operations, cut: { ...sample.operations.cut, of: ['edge'] } } } as typeof sample

describe('a trace that looks for something else', () => {
  it('is scored by the recipe where it becomes lines, and cut by it where it becomes edges again', () => {
    const lines = withTraceMode(job, 'edge', { mode: 'centreline' })
    const dose = lines.operations.cut.power / lines.operations.cut.speedMmS
    expect(lines.operations.cut).toMatchObject({ process: 'score', of: ['edge'], passes: 1 })
    expect(dose).toBeLessThan(0.5 * (job.operations.cut.power / job.operations.cut.speedMmS))
    expect(checkJob(lines)).toEqual(lines)
    const edges = withTraceMode(lines, 'edge', { mode: undefined })
    expect(edges.operations.cut).toMatchObject({ process: 'cut', power: 0.68, speedMmS: 12, recipe: 'birch-ply-3-cut' })
    expect(checkJob(edges)).toEqual(edges)
  })

  it('leaves operations alone that burn something else, or what gives edges as before', () => {
    expect(withTraceMode(job, 'edge', { mode: 'centreline' }).operations.engrave).toBe(job.operations.engrave)
    const colours = withTraceMode(job, 'edge', { mode: 'colours', palette: [[0, 0, 0]] })
    expect(colours.operations.cut).toEqual(job.operations.cut)
  })
})
