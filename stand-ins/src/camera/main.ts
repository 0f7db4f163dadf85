// A simulated camera over a simulated machine as a process of its own: main.ts PROFILE MACHINE-PANEL PORT PANEL-PORT, and
// `head` where it hangs at the head and goes with it.
// Tells its ports to whoever started it.
import type { AddressInfo } from 'node:net'
import { TRUTHS } from '../machine/truth.ts'
import { besideHead, hungOver } from './optics.ts'
import { BedCamera, serveCamera, serveCameraPanel } from './serve.ts'

const [profile, machinePanel, port, panelPort, place] = process.argv.slice(2)
const truth = TRUTHS[profile]
if (!truth) throw new Error(`There is no machine “${profile}”.`)
/** Nobody is told how it hangs: it follows from the name of the machine. */
const seed = [...profile].reduce((sum, letter) => sum * 7 + letter.charCodeAt(0), 1) % 9973
const over = { panel: Number(machinePanel), deepMm: truth.bed.y, fromFront: true }
const atHead = place === 'head'
const camera = new BedCamera(atHead ? besideHead(truth.bed, seed) : hungOver(truth.bed, 'moderate', seed), seed, over, atHead)
const server = await serveCamera(camera, Number(port))
const panel = await serveCameraPanel(camera, Number(panelPort))
const portOf = (at: { address(): unknown }): number => (at.address() as AddressInfo).port
process.send?.({ profile: atHead ? `${profile}@head` : profile, port: portOf(server), panel: portOf(panel) })

function stop(): void {
  process.exit(0)
}
process.on('SIGTERM', stop)
process.on('SIGINT', stop)
// Whoever started it is gone: no camera stays behind.
process.on('disconnect', stop)
