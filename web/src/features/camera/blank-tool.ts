import { ringContains, SAME } from '@neotaxis/core'
import type { Tool } from '../../stage/tool.ts'
import { type BedPhoto, chooseBlanks } from './bed-photo.ts'
import { edgesOf } from './photo-layers.ts'

/** Blanks that were found are chosen by a press on them. */
export function blankTool({ blanks, chosen }: BedPhoto): Tool {
  return {
    name: 'blanks',
    space: SAME,
    press: ({ x, y }) => {
      const hit = blanks.findIndex((blank) => {
        const rings = edgesOf(blank)
        return rings.filter((ring) => ringContains(ring, x, y)).length % 2 === 1
      })
      if (hit < 0) return undefined
      return {
        end: (_, moved) => {
          if (!moved)
            chooseBlanks(chosen.includes(hit) ? chosen.filter((i) => i !== hit) : [...chosen, hit].sort((a, b) => a - b))
        },
      }
    },
  }
}
