import type { JobDocument } from '@neotaxis/core'
import { store } from '../../store/store.ts'
import { elsewhereFile, program } from '../../workers/engine.ts'

/** Gives the operator a file. */
export function download(blob: Blob, name: string): void {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(blob)
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000)
}

/** Gives the operator a text as a file. */
export const saveText = (text: string, name: string, kind: string): void =>
  download(new Blob([text], { type: kind }), fileName(name))

/** A name that every system takes for a file. */
export const fileName = (name: string): string => name.replace(/[\\/:*?"<>|\s]+/g, ' ').trim() || 'job'

/** The program of the job as it is on screen, worked out here: a file for each set-up, and one for what another tool cuts. */
export async function saveProgram(job: JobDocument): Promise<number> {
  const files = await program(job)
  for (const [i, file] of files.entries())
    download(file, `${fileName(job.name)}${files.length > 1 ? ` ${i + 1} of ${files.length}` : ''}.gcode`)
  // What another tool cuts is a file of its own.
  const others = job.order.filter((id) => {
    const step = job.steps[id]
    return step.kind === 'elsewhere' && (step.of?.length ?? 0) > 0
  })
  for (const id of others) {
    const { text } = await elsewhereFile(job, id, 'svg')
    download(new Blob([text], { type: 'image/svg+xml' }), `${fileName(job.name)} ${id}.svg`)
  }
  return files.length + others.length
}

/** The job file from the server, once it has every change. */
export async function saveJobFile(id: string, name: string): Promise<void> {
  await settled()
  const response = await fetch(`/api/jobs/${id}/file`).catch(() => undefined)
  if (!response?.ok) throw new Error('The server is not answering: the job file can be saved when it is back.')
  download(await response.blob(), `${fileName(name)}.neotaxis`)
}

/** Waits until the server has every change of the open job. */
export function settled(): Promise<void> {
  return new Promise((resolve, reject) => {
    const look = (): boolean => {
      const { pending, save } = store.getState().job
      if (save === 'away') reject(new Error('The server is not answering: try again when it is back.'))
      else if (pending.length > 0) return false
      else resolve()
      return true
    }
    if (look()) return
    const stop = store.subscribe(() => look() && stop())
  })
}
