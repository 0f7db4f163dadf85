import { createServer as createHttp, type Server as HttpServer } from 'node:http'
import { createServer, type Server, type Socket } from 'node:net'
import { headOf, NEAR_CELL_MM, type OverMachine, seenInMachine } from './at-machine.ts'
import { jpegOf } from './jpeg.ts'
import { chances, knocked, type Optics } from './optics.ts'
import { type Burn, DAYLIGHT, type Light, laidOut, photographed, type Thing } from './photo.ts'

/** Widths of the photos that it can take, px; all are 4 to 3. */
export const WIDTHS = [648, 1296, 2592, 4000] as const
const USUAL = 2592
/** Shadows of things that lie so far outside fall into what it sees, mm. */
const SHADOWS_MM = 12

export const CAMERA_FAULTS = ['dark', 'covered', 'moved', 'away', 'page'] as const
type CameraFault = (typeof CAMERA_FAULTS)[number]

/** A simulated camera and what it looks at. */
export class BedCamera {
  private readonly optics: Optics
  private readonly seed: number
  private things: readonly Thing[] = []
  private readonly machine: OverMachine | undefined
  private readonly atHead: boolean
  private light: Light = DAYLIGHT
  private taken = 0
  fault: CameraFault | null = null

  /**
   * @param machine whose bed it hangs over: what lies there and what it burned is seen, too
   * @param atHead it goes where the head of that machine goes
   */
  constructor(optics: Optics, seed: number, machine?: OverMachine, atHead = false) {
    this.optics = optics
    this.seed = seed
    this.machine = machine
    this.atHead = atHead
  }

  lay(things: readonly Thing[]): void {
    this.things = things
  }

  shine(light: Partial<Light>): void {
    this.light = { ...this.light, ...light }
  }

  /** How it hangs just now, and what lies in its sight: one at the head sees little, from near. */
  private async sight(optics: Optics): Promise<{ optics: Optics; lying: ReturnType<typeof laidOut>; burn: Burn | undefined }> {
    if (!this.machine) return { optics, lying: laidOut(this.things), burn: undefined }
    if (!this.atHead) {
      const there = await seenInMachine(this.machine)
      return { optics, lying: laidOut([...this.beside(there.things), ...there.things]), burn: there.burn }
    }
    const head = await headOf(this.machine)
    const [x, y] = [head.x + optics.over[0], head.y + optics.over[1]]
    // Where it was not homed it stands nowhere that it knows.
    if (!Number.isFinite(x) || !Number.isFinite(y)) throw new Error('The head stands nowhere.')
    const highMm = optics.highMm + head.z
    const around = (half: number) => ({ x0: x - half, y0: y - half, x1: x + half, y1: y + half })
    const sees = (0.6 * highMm) / optics.focal
    const there = await seenInMachine(this.machine, around(sees))
    const lying = laidOut([...this.beside(there.things), ...there.things], NEAR_CELL_MM, around(sees + SHADOWS_MM))
    return { optics: { ...optics, over: [x, y], highMm }, lying, burn: there.burn }
  }

  /** Things that were put under it and still are: where the machine has something of another thickness, they were taken away for it. */
  private beside(laid: readonly Thing[]): Thing[] {
    return this.things.filter((thing) => !laid.some((each) => each.thicknessMm !== thing.thicknessMm && meet(each, thing)))
  }

  /** A photo as JPEG. */
  async photo(widthPx: number): Promise<Uint8Array> {
    const heightPx = Math.round(widthPx * 0.75)
    this.taken++
    if (this.fault === 'covered') return jpegOf(hand(widthPx, heightPx, this.seed + this.taken), widthPx, heightPx)
    const light = this.fault === 'dark' ? { ...this.light, bright: 0.015 } : this.light
    const { optics, lying, burn } = await this.sight(this.fault === 'moved' ? knocked(this.optics, this.seed) : this.optics)
    const rgba = photographed(optics, { widthPx, heightPx }, lying, light, this.seed * 131 + this.taken, burn)
    return jpegOf(rgba, widthPx, heightPx)
  }
}

/** Whether the boxes of two things overlap. */
function meet(a: Thing, b: Thing): boolean {
  const [[ax, ay, au, av], [bx, by, bu, bv]] = [a, b].map(({ rings }) => {
    const all = rings.flat()
    const along = (k: 0 | 1): number[] => all.filter((_, i) => i % 2 === k)
    const [xs, ys] = [along(0), along(1)]
    return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)]
  })
  return ax < bu && bx < au && ay < bv && by < av
}

/** Something right before the lens. */
function hand(widthPx: number, heightPx: number, seed: number): Uint8ClampedArray {
  const by = chances(seed)
  const out = new Uint8ClampedArray(4 * widthPx * heightPx)
  for (let i = 0; i < out.length; i += 4) {
    const level = 34 + 4 * by()
    out[i] = level + 10
    out[i + 1] = level
    out[i + 2] = level - 6
    out[i + 3] = 255
  }
  return out
}

/** Photos over HTTP, and nothing else: `/photo.jpg?width=2592`. */
export function serveCamera(camera: BedCamera, port: number): Promise<HttpServer> {
  const server = createHttp((request, response) => {
    const url = new URL(request.url ?? '/', 'http://camera')
    const width = Number(url.searchParams.get('width') ?? USUAL)
    if (camera.fault === 'away') {
      request.socket.destroy()
      return
    }
    if (camera.fault === 'page') {
      response.setHeader('Content-Type', 'text/html')
      response.end('<html><body>Sign in to the camera</body></html>')
      return
    }
    if (url.pathname !== '/photo.jpg' || !(WIDTHS as readonly number[]).includes(width)) {
      response.statusCode = 404
      response.end()
      return
    }
    camera.photo(width).then(
      (jpeg) => {
        response.setHeader('Content-Type', 'image/jpeg')
        response.end(jpeg)
      },
      () => {
        response.statusCode = 500
        response.end()
      },
    )
  })
  return new Promise((resolve, reject) => {
    server.once('error', reject)
    server.listen(port, '127.0.0.1', () => resolve(server))
  })
}

interface Request {
  readonly do?: string
  readonly things?: readonly Thing[]
  readonly light?: Partial<Light>
  readonly how?: CameraFault | null
}

/** What people do under a camera, one JSON object a line: lay things on the bed, change the light, knock against it. */
export function serveCameraPanel(camera: BedCamera, port: number): Promise<Server> {
  const deeds: Record<string, (request: Request) => void> = {
    lay: ({ things }) => camera.lay(things ?? []),
    light: ({ light }) => camera.shine(light ?? {}),
    fail: ({ how }) => {
      if (how && !CAMERA_FAULTS.includes(how)) throw new Error()
      camera.fault = how ?? null
    },
  }
  const server = createServer((socket: Socket) => {
    let text = ''
    socket.on('error', () => {})
    socket.on('data', (data) => {
      text += data.toString('utf8')
      for (let end = text.indexOf('\n'); end >= 0; end = text.indexOf('\n')) {
        let ok = true
        try {
          const request = JSON.parse(text.slice(0, end)) as Request
          const deed = deeds[request.do ?? '']
          if (deed) deed(request)
          else ok = false
        } catch {
          ok = false
        }
        socket.write(`${JSON.stringify({ ok })}\n`)
        text = text.slice(end + 1)
      }
      if (text.length > 4_000_000) socket.destroy()
    })
  })
  return new Promise((resolve, reject) => {
    server.once('error', reject)
    server.listen(port, '127.0.0.1', () => resolve(server))
  })
}
