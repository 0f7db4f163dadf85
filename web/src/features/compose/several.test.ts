import { withArtwork } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { describe, expect, it } from 'vitest'
import { selectedNodes, toggled } from '../selection.ts'
import { clipText, isClip, readClip } from './clipboard.ts'
import { artworkWithin } from './use-select-tool.tsx'

const picture = squarePicture(20, 5)
const job = withArtwork(sampleJob({ picture }), sampleJob({ picture }), 'n2')
const at = (x: number) => ({ x0: x, y0: 0, x1: x + 10, y1: 10 })
const bounds = { dots: at(0), around: at(0), 'dots-n2': at(20), 'around-n2': at(20) }

describe('several pieces of artwork', () => {
  it('are those that lie wholly in a box, each family once', () => {
    const of = (x1: number): readonly string[] => artworkWithin(job, { bounds }, { x0: -1, y0: -1, x1, y1: 11 })
    expect(of(31)).toHaveLength(2)
    expect(of(25)).toHaveLength(1)
    expect(of(5)).toEqual([])
  })

  it('have one more, or one less where its family is among them', () => {
    expect(toggled(job, ['dots'], 'dots-n2')).toEqual(['dots', 'dots-n2'])
    expect(toggled(job, ['dots', 'dots-n2'], 'around')).toEqual(['dots-n2'])
    expect(toggled(job, [], 'dots')).toEqual(['dots'])
  })

  it('end with the one whose details are shown; what is gone is not selected', () => {
    expect(selectedNodes(job, { kind: 'node', id: 'dots' }, ['gone', 'dots', 'dots-n2'])).toEqual(['dots-n2', 'dots'])
    expect(selectedNodes(job, null, ['dots'])).toEqual(['dots'])
    expect(selectedNodes(job, null, [])).toEqual([])
  })
})

describe('copied artwork', () => {
  it('goes through the clipboard as text, and comes out as it went in', async () => {
    const text = clipText(job)
    expect(isClip(text)).toBe(true)
    expect(isClip('{"jobs":[]}')).toBe(false)
    expect(await readClip(text)).toEqual(JSON.parse(JSON.stringify(job)))
  })

  it('that was changed on its way is refused with the reason', async () => {
    await expect(readClip(clipText({ ...job, nodes: { dots: { kind: 'spell' } } as never }))).rejects.toThrow()
    await expect(readClip(clipText(job).slice(0, -5))).rejects.toThrow('not whole')
  })
})
