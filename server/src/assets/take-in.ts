import type { Intake } from '@neotaxis/intake'
import { Refusal } from '../refusal.ts'
import { inThread } from '../thread.ts'

const DECODE_SECONDS = 60

/** Decodes a dropped file in a thread of its own, with limits on time and memory. */
export async function takeInPicture(bytes: Uint8Array): Promise<Intake> {
  const answer = await inThread<{ intake?: Intake; refused?: string }>(
    new URL('./take-in-thread.ts', import.meta.url),
    bytes,
    DECODE_SECONDS,
  ).catch(() => ({
    refused: 'The picture is damaged, or too large to be read.',
    intake: undefined,
  }))
  if (!answer.intake) throw new Refusal(422, 'no-picture', answer.refused ?? 'The picture cannot be read.')
  return answer.intake
}
