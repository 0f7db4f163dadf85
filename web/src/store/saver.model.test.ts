import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { expect, it } from 'vitest'
import { runHistory } from '../testing/pages.ts'

const document = sampleJob({ picture: squarePicture(10, 5) })
/** The campaign makes 10 000 of them. */
const HISTORIES = Number(process.env.NEOTAXIS_HISTORIES ?? 300)
const FIRST = Number(process.env.NEOTAXIS_SEED ?? 1)

it(`page and server come to the same in ${HISTORIES} random histories, and nothing is lost`, { timeout: 3_600_000 }, async () => {
  let edits = 0
  let branches = 0
  for (let seed = FIRST; seed < FIRST + HISTORIES; seed++) {
    const end = await runHistory({ document, seed, steps: 10 + (seed % 40) }).catch((cause: Error) => {
      throw new Error(`History ${seed}: ${cause.message}`, { cause })
    })
    edits += end.edits
    branches += end.jobs - 1
  }
  // They are about something.
  expect(edits).toBeGreaterThan(5 * HISTORIES)
  expect(branches).toBeGreaterThan(HISTORIES / 10)
})
