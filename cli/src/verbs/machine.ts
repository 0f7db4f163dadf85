import type { AddressInfo } from 'node:net'
import { encodePng } from '@neotaxis/core'
import {
  Bed,
  deviating,
  FAULTS,
  type Fault,
  Machine,
  serveMachine,
  servePanel,
  TRUTHS,
  type Truth,
  turning,
} from '@neotaxis/stand-ins'
import { countOption, type Io, numberOption, readOptions, tell, UsageError, writeOutput } from '../io.ts'

function fault(text: string): Fault {
  const [kind, when] = text.split('@')
  const afterLines = Number(when)
  if (!FAULTS.includes(kind as Fault['kind']) || !Number.isInteger(afterLines) || afterLines < 1)
    throw new UsageError(`--fail is written like lid@200, with one of ${FAULTS.join(', ')} and a number of lines, not ${text}.`)
  return { kind: kind as Fault['kind'], afterLines }
}

/** The machine as it hides to be: `SEED` or `SEED:SHARE`, numbers off by up to a tenth where no share is said. */
function hidden(exact: Truth, text: string | undefined): Truth {
  if (text === undefined) return exact
  const [seed, share = '0.1'] = text.split(':')
  if (!/^\d{1,9}$/.test(seed) || !(Number(share) > 0 && Number(share) <= 0.5))
    throw new UsageError(`--truth is written like 7 or 7:0.05, a seed and a share up to 0.5, not ${text}.`)
  return deviating(exact, Number(seed), Number(share))
}

/** A simulated machine on loopback until it is ended; then it tells what it did, and what lies burned on its bed. */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values } = readOptions(
    args,
    {
      port: { type: 'string' },
      profile: { type: 'string' },
      pace: { type: 'string' },
      fail: { type: 'string', multiple: true },
      burned: { type: 'string' },
      dpi: { type: 'string' },
      panel: { type: 'string' },
      truth: { type: 'string' },
      rotary: { type: 'string' },
    },
    { min: 0, max: 0, what: 'no file' },
  )
  const profile = values.profile ?? 'bench-60'
  const exact = TRUTHS[profile]
  if (!exact) throw new UsageError(`there is no machine “${profile}”. There are: ${Object.keys(TRUTHS).join(', ')}.`)
  const diameter = numberOption('rotary', values.rotary, 5, 1000)
  const truth = hidden(diameter === undefined ? exact : turning(exact, diameter), values.truth)
  const pace = values.pace === 'max' ? Infinity : (numberOption('pace', values.pace, 0.01, 1e6) ?? 1)
  const dpi = numberOption('dpi', values.dpi, 10, 1270) ?? 254
  const bed = values.burned || values.panel ? new Bed(truth.bed.x, truth.bed.y, 25.4 / dpi, truth.spot) : undefined
  const machine = new Machine(truth, bed)
  const faults = (values.fail ?? []).map(fault)
  const server = await serveMachine(machine, { port: countOption('port', values.port, 0, 65_535) ?? 0, pace, faults })
  io.out(`listening ${(server.address() as AddressInfo).port}\n`)
  const panel =
    values.panel === undefined ? undefined : await servePanel(machine, countOption('panel', values.panel, 0, 65_535) ?? 0)
  if (panel) io.out(`panel ${(panel.address() as AddressInfo).port}\n`)
  await new Promise<void>((resolve) => {
    process.once('SIGTERM', resolve)
    process.once('SIGINT', resolve)
  })
  server.close()
  panel?.close()
  // Full black at the dose that turns light wood dark.
  if (bed && values.burned)
    writeOutput(values.burned, encodePng({ ...bed.picture(0.6), channels: 1, full: 255 }, { pixelsPerMm: dpi / 25.4 }))
  const { seconds, lines, burnMm, travelMm, alarms } = machine.counts
  tell(io, values.json, { seconds, lines, burnMm, travelMm, alarms }, [
    `${lines} lines, ${seconds.toFixed(1)} s, ${alarms} alarms`,
  ])
  return 0
}
