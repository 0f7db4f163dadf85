import { describe, expect, it } from 'vitest'
import { withArtwork } from '../../edits/add-artwork.ts'
import { greyPicture, sampleJob } from '../../testing/sample-job.ts'
import { tellArtwork, tellBurned } from './tell-artwork.ts'

const one = sampleJob({ picture: greyPicture(10, 10, () => 0) })
const named = (job: typeof one, name: string): typeof one => ({
  ...job,
  nodes: { ...job.nodes, source: { ...job.nodes.source, name } as never },
})

describe('what artwork is called', () => {
  it('is its own name where it is the only one', () => {
    expect(tellArtwork(one, 'edge')).toBe(one.nodes.edge.name)
    expect(tellArtwork(one, 'source')).toBe(one.nodes.source.name)
    expect(tellBurned(one, { of: ['edge'] })).toBe(one.nodes.edge.name)
    expect(tellBurned(one, { of: ['edge', 'source', 'dots'] })).toBe(`${one.nodes.edge.name} and 2 more`)
  })

  it('says what it was made from where others are called so too, and which of two files of one name', () => {
    const two = withArtwork(named(one, 'heron.png'), named(one, 'net tag.v2.svg'), 'n2')
    const { name } = one.nodes.edge
    expect(tellArtwork(two, 'edge')).toBe(`${name} of heron`)
    expect(tellArtwork(two, 'edge-n2')).toBe(`${name} of net tag.v2`)
    const twice = withArtwork(named(one, 'heron.png'), named(one, 'heron.png'), 'n2')
    expect(tellArtwork(twice, 'edge-n2')).toBe(`${name} of heron (2)`)
    expect(tellArtwork(twice, 'source-n2')).toBe('heron.png')
  })
})
