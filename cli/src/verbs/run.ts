import { checkFindings, writeProgram } from '@neotaxis/core'
import { LinkError, MachineLink, runProgram } from '@neotaxis/link'
import { type Io, readInput, readOptions, tell, UsageError, WorkError } from '../io.ts'
import { loadJob } from '../jobs.ts'

/** Sends a job or a program to a machine, and waits for its end. */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    { machine: { type: 'string' } },
    { min: 1, max: 1, what: 'one job or G-code file' },
  )
  if (!values.machine) throw new UsageError('name the --machine, for example tcp://127.0.0.1:PORT.')
  const { text, estimateSeconds, stops } = programOf(positionals[0])
  for (const stop of stops) io.err(`stop: ${stop}\n`)
  if (stops.length > 0) return 3
  let link: MachineLink
  try {
    link = await MachineLink.open(values.machine)
  } catch (cause) {
    if (cause instanceof LinkError) throw new WorkError(cause.message)
    throw cause
  }
  try {
    const { state, lines, seconds, at, reason } = await runProgram(link, text.split('\n'))
    tell(io, values.json, { state, lines, seconds, estimateSeconds, at, reason }, [
      `${state}: ${lines} lines, ${seconds.toFixed(1)} s`,
    ])
    if (state !== 'done') throw new WorkError(reason)
  } finally {
    link.close()
  }
  return 0
}

/** The program of a job, or of a file that is one already. */
function programOf(path: string): { text: string; estimateSeconds: number | null; stops: readonly string[] } {
  const isProgram = /\.(gcode|nc|gc|tap)$/i.test(path)
  if (isProgram) return { text: new TextDecoder().decode(readInput(path)), estimateSeconds: null, stops: [] }
  const { job, bench } = loadJob(path)
  const stops = checkFindings(job, bench).filter(({ severity }) => severity === 'stop')
  const decoder = new TextDecoder()
  let text = ''
  const { seconds } = writeProgram(job, bench, (bytes) => {
    text += decoder.decode(bytes)
  })
  return { text, estimateSeconds: seconds, stops: stops.map(({ message }) => message) }
}
