import type { JobDocument, MeshNode } from '@neotaxis/core'
import { useCallback } from 'react'
import { useAnswer } from '../../api/use-answer.ts'
import { benchMask, benchPicture } from '../../workers/engine.ts'
import type { BenchPicture } from '../../workers/shared.ts'

const bitmapOf = (made: BenchPicture): Promise<ImageBitmap> =>
  createImageBitmap(new ImageData(made.rgba as Uint8ClampedArray<ArrayBuffer>, made.widthPx, made.heightPx))

/** A picture that is made by the engine, again whenever `key` says so. The old one stays until the new one is there. */
function useBitmap(key: string, make: () => Promise<BenchPicture | undefined>): ImageBitmap | undefined {
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key says what it depends on
  const question = useCallback(async () => {
    const made = await make()
    return { bitmap: made && (await bitmapOf(made)) }
  }, [key])
  return useAnswer(question).value?.bitmap
}

/** The framed picture before treatment. @param upTo framing steps that are done, default all */
export function useBenchPicture(
  job: JobDocument,
  nodeId: string,
  rootId: string,
  upTo: number | undefined,
): ImageBitmap | undefined {
  const root = job.nodes[rootId]
  const node = job.nodes[nodeId]
  const key = JSON.stringify([
    root.kind === 'source' || root.kind === 'mesh' ? { ...root, name: '', framing: root.framing.slice(0, upTo) } : '',
    node.kind === 'picture' ? node.grey : '',
  ])
  return useBitmap(key, () => benchPicture(job, nodeId, upTo))
}

/** What a picture made from a mesh looks like, small. */
export function useSmallHeights(job: JobDocument, nodeId: string, root: MeshNode, side: number): ImageBitmap | undefined {
  const key = JSON.stringify({ ...root, name: '', side })
  return useBitmap(key, () => benchPicture(job, nodeId, undefined, side))
}

/** A mask as a tint over its picture. */
export function useBenchMask(
  job: JobDocument,
  nodeId: string,
  rootId: string,
  maskId: string | undefined,
): ImageBitmap | undefined {
  const node = job.nodes[nodeId]
  const mask = node.kind === 'picture' && maskId ? node.masks[maskId] : undefined
  const root = job.nodes[rootId]
  // A mask lies on the picture: another framing moves it.
  const framing = root.kind === 'source' || root.kind === 'mesh' ? root.framing : []
  const bitmap = useBitmap(JSON.stringify([mask, maskId, framing]), async () =>
    mask && maskId ? benchMask(job, nodeId, maskId) : undefined,
  )
  return mask ? bitmap : undefined
}
