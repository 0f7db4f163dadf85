import type { JobDocument } from '@neotaxis/core'

/** Begins a text that is copied artwork. */
const MARK = '{"neotaxisArtwork":1,'
const KEY = 'neotaxis.copied'

/** Artwork as a text, to be pasted in any job. */
export const clipText = (artwork: JobDocument): string => `${MARK}${JSON.stringify(artwork).slice(1)}`

/** Whether a text is copied artwork. */
export const isClip = (text: string): boolean => text.startsWith(MARK)

/** Copied artwork, checked as any job from outside. @throws a sentence where it is none */
export async function readClip(text: string): Promise<JobDocument> {
  const { checkJob } = await import('./check-clip.ts')
  let copied: { neotaxisArtwork: number } & JobDocument
  try {
    copied = JSON.parse(text) as typeof copied
  } catch {
    throw new Error('What was copied is not whole: copy it again.')
  }
  const { neotaxisArtwork: _, ...artwork } = copied
  return checkJob(artwork)
}

/** Keeps it in this browser, for other jobs and for where the system's clipboard cannot be read. */
export function keepClip(text: string): void {
  try {
    localStorage.setItem(KEY, text)
  } catch {
    // No room: the system's clipboard has it.
  }
}

export const keptClip = (): string | null => localStorage.getItem(KEY)
