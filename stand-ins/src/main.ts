// A simulated machine as a process of its own, as the start commands run it:
// main.ts PROFILE PORT PANEL-PORT PACE [SEED SHARE]. Tells its ports to whoever started it.
import type { AddressInfo } from 'node:net'
import { Bed } from './machine/bed.ts'
import { Machine } from './machine/machine.ts'
import { servePanel } from './machine/panel.ts'
import { serveMachine } from './machine/serve.ts'
import { deviating, TRUTHS } from './machine/truth.ts'

const [profile, port, panelPort, pace, seed, share] = process.argv.slice(2)
const exact = TRUTHS[profile]
if (!exact) throw new Error(`There is no machine “${profile}”.`)
const truth = seed ? deviating(exact, Number(seed), Number(share)) : exact
const machine = new Machine(truth, new Bed(truth.bed.x, truth.bed.y, 0.05, truth.spot))
const times = { times: pace === 'max' ? Infinity : Number(pace) }
const server = await serveMachine(machine, { port: Number(port), pace: times })
const panel = await servePanel(machine, Number(panelPort), times)
const portOf = (at: typeof server): number => (at.address() as AddressInfo).port
process.send?.({ profile, port: portOf(server), panel: portOf(panel) })

function stop(): void {
  process.exit(0)
}
process.on('SIGTERM', stop)
process.on('SIGINT', stop)
// Whoever started it is gone: no machine stays behind.
process.on('disconnect', stop)
