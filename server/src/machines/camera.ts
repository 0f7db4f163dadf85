import { Refusal } from '../refusal.ts'

/** A camera that ships with the application: where it answers, and where hands reach what lies under it. */
export interface CameraReach {
  readonly address: string
  readonly panel: number
}

/** `bench-60=PORT/PANEL-PORT,bench-60@head=…`, as the start command tells it. */
export function readCameras(text: string | undefined): ReadonlyMap<string, CameraReach> {
  const found = new Map<string, CameraReach>()
  for (const part of (text ?? '').split(',')) {
    const match = /^([\w-]+(?:@head)?)=(\d+)\/(\d+)$/.exec(part.trim())
    if (match) found.set(match[1], { address: `http://127.0.0.1:${match[2]}/photo.jpg`, panel: Number(match[3]) })
  }
  return found
}

/** A camera that says nothing for so long is not there; a photo is no larger than this. */
const WAITS_MS = 25_000
const MOST_BYTES = 40e6

/**
 * A photo from a camera, as JPEG.
 * @param widthPx asked of it, where it has photos of several sizes
 * @throws Refusal with a sentence where it does not answer, or answers with something else
 */
export async function takenPhoto(address: string, widthPx: number | undefined): Promise<Uint8Array> {
  const url = new URL(address)
  if (widthPx !== undefined) url.searchParams.set('width', String(widthPx))
  let response: Response
  try {
    response = await fetch(url, { signal: AbortSignal.timeout(WAITS_MS), redirect: 'error' })
  } catch {
    throw new Refusal(502, 'camera-away', `The camera does not answer at ${url.host}: look whether it is plugged in and on.`)
  }
  if (!response.ok)
    throw new Refusal(
      502,
      'camera-other',
      `The camera has no photo at this address (it says ${response.status}): look at its address.`,
    )
  const bytes = new Uint8Array(await bounded(response))
  if (!(bytes[0] === 0xff && bytes[1] === 0xd8))
    throw new Refusal(
      502,
      'camera-other',
      'The camera answers with something that is no photo: look at its address, and whether it wants a sign-in.',
    )
  return bytes
}

/** All that is answered, within the limit. */
async function bounded(response: Response): Promise<Buffer> {
  const pieces: Uint8Array[] = []
  let bytes = 0
  try {
    for await (const piece of response.body as unknown as AsyncIterable<Uint8Array>) {
      bytes += piece.length
      if (bytes > MOST_BYTES) throw new Refusal(502, 'camera-other', 'The camera sends more than a photo.')
      pieces.push(piece)
    }
  } catch (cause) {
    if (cause instanceof Refusal) throw cause
    throw new Refusal(502, 'camera-away', 'The camera broke off in the middle of a photo: take it again.')
  }
  return Buffer.concat(pieces)
}
