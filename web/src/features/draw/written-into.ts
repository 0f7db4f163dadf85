import type { AssetFacts } from '@neotaxis/contract'
import type { Drawn, JobDocument } from '@neotaxis/core'
import { bringIn } from '../../api/orders.ts'
import { drawnFile } from '../../workers/engine.ts'
import { newId } from '../new-id.ts'
import { drawnInto } from './drawn-into.ts'
import { plainLetters } from './plain-letters.ts'
import { textInTheMiddle } from './text-middle.ts'

/** A job with a text in the middle of its workpiece. @throws Error with a sentence where it cannot be written */
export async function writtenInto(job: JobDocument, text: string): Promise<JobDocument> {
  const { drawn, at } = await textInTheMiddle(job, text)
  return (await drawnInto(job, drawn, at, newId().slice(0, 8)))(job).job
}

/** A text in plain letters, as a drawing that was brought in. @throws Error with a sentence where it cannot be written */
export async function plainText(text: string): Promise<{ readonly facts: AssetFacts; readonly drawn: Drawn }> {
  const drawn = plainLetters(text)
  const { svg } = await drawnFile(drawn)
  return { facts: await bringIn(new Blob([svg])), drawn }
}
