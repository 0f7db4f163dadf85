import { Worker } from 'node:worker_threads'

/** Runs a module once in a worker thread and returns the first message it sends; it is ended after `seconds`. */
export function inThread<T>(module: URL, data: unknown, seconds: number): Promise<T> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(new URL('./thread-entry.mjs', import.meta.url), {
      workerData: { module: module.href, data },
      resourceLimits: { maxOldGenerationSizeMb: 2048 },
    })
    const timer = setTimeout(() => {
      reject(new Error(`It took longer than ${seconds} s.`))
      void worker.terminate()
    }, seconds * 1000)
    const end = (): void => {
      clearTimeout(timer)
      void worker.terminate()
    }
    worker.once('message', (message: T) => {
      resolve(message)
      end()
    })
    worker.once('error', (error) => {
      reject(error)
      end()
    })
    worker.once('exit', (code) => {
      clearTimeout(timer)
      if (code !== 0) reject(new Error('It stopped before it was done.'))
    })
  })
}
