import { assetsOf, type JobDocument, packJob } from '@neotaxis/core'

/**
 * The job on screen as a file, put together in this page: changes that the server does not have yet are in it.
 * @throws where a picture of it is neither here nor at the server
 */
export async function packHere(job: JobDocument): Promise<Blob> {
  const assets = new Map<string, Uint8Array>()
  await Promise.all(
    assetsOf(job).map(async (name) => {
      const response = await fetch(`/api/assets/${name}`).catch(() => undefined)
      if (!response?.ok) throw new Error('A picture of this job is not here, and the server is not answering: try it again.')
      assets.set(name, new Uint8Array(await response.arrayBuffer()))
    }),
  )
  return new Blob([packJob(job, (name) => assets.get(name)!) as Uint8Array<ArrayBuffer>], { type: 'application/zip' })
}
