import type { AssetFacts } from '@neotaxis/contract'
import { type Drawn, type JobDocument, MOST_LETTERS, type TextSpec } from '@neotaxis/core'
import { bringIn } from '../../api/orders.ts'
import { drawnFile } from '../../workers/engine.ts'
import { newId } from '../new-id.ts'
import { drawnInto } from './drawn-into.ts'
import { FIRST } from './first-numbers.ts'
import { textInTheMiddle } from './text-middle.ts'

/** A job with a text in the middle of its workpiece. @throws Error with a sentence where it cannot be written */
export async function writtenInto(job: JobDocument, text: string): Promise<JobDocument> {
  const { drawn, at } = await textInTheMiddle(job, text)
  return (await drawnInto(job, drawn, at, newId().slice(0, 8)))(job).job
}

/** A text in plain letters, as a drawing that was brought in; more letters than can be written are left out. */
export async function plainText(text: string): Promise<{ readonly facts: AssetFacts; readonly drawn: Drawn }> {
  const drawn = { ...(FIRST.text as TextSpec), text: text.slice(0, MOST_LETTERS / 2) }
  const { svg } = await drawnFile(drawn)
  return { facts: await bringIn(new Blob([svg])), drawn }
}
