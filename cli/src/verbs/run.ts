import { checkFindings, formatDuration, writeProgram } from '@neotaxis/core'
import { LinkError, MachineLink, ProgramRun, programOf } from '@neotaxis/link'
import { type Io, readInput, readOptions, tell, UsageError, WorkError } from '../io.ts'
import { loadJob } from '../jobs.ts'

/** Sends a job or a program to a machine, and waits for its end. */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    { machine: { type: 'string' }, persist: { type: 'boolean', default: false } },
    { min: 1, max: 1, what: 'one job or G-code file' },
  )
  if (!values.machine) throw new UsageError('name the --machine, for example tcp://127.0.0.1:PORT.')
  const { text, estimateSeconds, stops } = readProgram(positionals[0])
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
    let told = ''
    const running = await ProgramRun.start(link, programOf(text), {
      token: 'cli',
      persist: values.persist,
      onChange: ({ phase, reason }) => {
        if (phase === told) return
        told = phase
        if (reason) io.err(`${phase}: ${reason}\n`)
        // Nobody is there to answer: what cannot go on by itself ends here, with its place.
        const waits = phase === 'lid' || phase === 'homing' || phase === 'paused' || (phase === 'held' && !values.persist)
        if (waits) void running.stop()
      },
    })
    const interrupt = (): void => void running.stop()
    process.once('SIGINT', interrupt)
    const { phase, reason, place, seconds } = await running.finished
    process.removeListener('SIGINT', interrupt)
    const lines = place?.driven ?? 0
    const at = place && { x: place.x, y: place.y }
    tell(io, values.json, { state: phase, lines, seconds, estimateSeconds, at, reason }, [
      `${phase}: ${lines} lines, ${formatDuration(seconds)}${estimateSeconds === null ? '' : `, estimated ${formatDuration(estimateSeconds)}`}`,
    ])
    if (phase !== 'done')
      throw new WorkError(place ? `${reason} ${lines} lines were driven; the head is at X ${place.x} Y ${place.y}.` : reason)
  } catch (cause) {
    if (cause instanceof LinkError) throw new WorkError(cause.message)
    throw cause
  } finally {
    link.close()
  }
  return 0
}

/** The program of a job, or of a file that is one already. */
function readProgram(path: string): { text: string; estimateSeconds: number | null; stops: readonly string[] } {
  const isProgram = /\.(gcode|nc|gc|tap)$/i.test(path)
  if (isProgram) return { text: new TextDecoder().decode(readInput(path)), estimateSeconds: null, stops: [] }
  const { job, supply } = loadJob(path)
  const stops = checkFindings(job, supply).filter(({ severity }) => severity === 'stop')
  const decoder = new TextDecoder()
  let text = ''
  const { seconds } = writeProgram(job, supply, (bytes) => {
    text += decoder.decode(bytes)
  })
  return { text, estimateSeconds: seconds, stops: stops.map(({ message }) => message) }
}
