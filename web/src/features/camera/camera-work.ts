import { type Remote, wrap } from 'comlink'
import type { CameraWorker } from '../../workers/camera.worker.ts'

let worker: Worker | undefined
let at: Remote<CameraWorker> | undefined

/** The worker that looks at photos, made when it is first needed. */
export function cameraWork(): Remote<CameraWorker> {
  if (!at) {
    worker = new Worker(new URL('../../workers/camera.worker.ts', import.meta.url), { type: 'module' })
    at = wrap<CameraWorker>(worker)
  }
  return at
}

/** Ends what it does: what it was asked for never comes. */
export function endCameraWork(): void {
  worker?.terminate()
  worker = undefined
  at = undefined
}

/** What a code in a photo says, looked for beside all else: it takes seconds. */
export async function codeIn(jpeg: Blob): Promise<string | undefined> {
  const own = new Worker(new URL('../../workers/camera.worker.ts', import.meta.url), { type: 'module' })
  try {
    const reader = wrap<CameraWorker>(own)
    await reader.take(jpeg)
    return await reader.code()
  } finally {
    own.terminate()
  }
}
