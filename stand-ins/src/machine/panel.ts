import { createServer, type Server, type Socket } from 'node:net'
import type { Machine } from './machine.ts'
import { HIDDEN, type Laid, Workpiece } from './material.ts'
import type { Pace } from './serve.ts'

/** What a person does at the machine, or with a gauge in the hand: one JSON object a line. */
interface Request {
  readonly do: string
  readonly open?: boolean
  readonly pressed?: boolean
  readonly laid?: Laid
  readonly x?: number
  readonly y?: number
  readonly power?: number
  readonly times?: number
  readonly columns?: number
  readonly rows?: number
  readonly cell?: number
  /** Cells that are cut in part say how much. */
  readonly soft?: boolean
  readonly what?: string
  readonly side?: number
  /** How much another lens bends the field of a scan head, and which way. */
  readonly mm?: number
  readonly seed?: number
}

/** A picture larger than this is refused. */
const MAX_PIXELS = 40_000_000

/** Something that cannot be done at the machine; `message` is a sentence. */
class PanelError extends Error {}

/**
 * The outside of a machine, on a port of its own: start button, lid, emergency stop, what lies in it, and measuring what
 * was burned. A real machine has it in reach of a hand; `docs/machine-protocol.md` tells the words.
 */
export function servePanel(machine: Machine, port: number, pace: Pace = { times: 1 }): Promise<Server> {
  let workpiece: Workpiece | undefined

  const lying = (): Workpiece => {
    if (!workpiece) throw new PanelError('Nothing lies in the machine.')
    return workpiece
  }
  const place = ({ x, y }: Request): [number, number] => {
    if (!Number.isFinite(x) || !Number.isFinite(y)) throw new PanelError('Say where, with x and y.')
    return [x as number, y as number]
  }

  const deeds: Record<string, (request: Request) => object | Promise<object>> = {
    state: () => ({
      status: machine.status(),
      watts: machine.beamNow,
      lid: machine.isLidOpen,
      laid: workpiece?.laid ?? null,
      times: pace.times,
    }),
    pace: ({ times }) => {
      if (!(times !== undefined && times > 0)) throw new PanelError('Say how many times real time.')
      pace.times = times
      return {}
    },
    press: () => {
      machine.press()
      return {}
    },
    lid: ({ open }) => {
      machine.lid(open === true)
      return {}
    },
    emergency: ({ pressed }) => {
      machine.emergency(pressed === true)
      return {}
    },
    lay: ({ laid }) => {
      if (!laid || !HIDDEN[laid.material]) throw new PanelError(`There is no material “${laid?.material}”.`)
      if (!machine.bed) throw new PanelError('This machine keeps no picture of what it burns.')
      machine.turn(laid.turned ?? laid.diameter)
      machine.arch = laid.arch
      machine.uneven = laid.uneven
      machine.bed.clear()
      machine.surface = laid.thickness
      workpiece = new Workpiece(laid, machine.bed, machine.truth.unevenness)
      return {}
    },
    focus: ({ mm }) => {
      if (mm === undefined || !Number.isFinite(mm)) throw new PanelError('Say how high the lens is set, mm over the bed.')
      try {
        machine.setLens(mm)
      } catch {
        throw new PanelError('The lens is set by hand while the head stands, from 0 mm over the bed as far as it goes.')
      }
      return {}
    },
    lens: ({ mm = 0, seed = 1 }) => {
      if (!machine.field) throw new PanelError('This machine has no scan head.')
      if (!(mm >= 0 && mm <= 5)) throw new PanelError('A lens bends its field by 0 to 5 mm.')
      machine.field.lens(mm > 0 ? { mm, seed } : undefined)
      return {}
    },
    lift: () => {
      workpiece = undefined
      machine.bed?.clear()
      machine.surface = 0
      machine.arch = undefined
      machine.uneven = undefined
      return {}
    },
    tone: (request) => ({ value: lying().tone(...place(request)) }),
    depth: (request) => ({ value: lying().depth(...place(request)) }),
    harmed: (request) => ({ value: lying().harmed(...place(request)) }),
    slot: (request) => ({ value: lying().slot(...place(request)) }),
    gauge: (request) => {
      const { what, side = 4 } = request
      if (what !== 'tone' && what !== 'depth' && what !== 'harmed') throw new PanelError('A gauge reads tone, depth or harmed.')
      if (!(side > 0 && side <= 50)) throw new PanelError('Say over which side it reads, in mm, up to 50.')
      return { value: lying().over(what, ...place(request), side) }
    },
    through: (request) => ({ value: lying().through(...place(request)) }),
    watts: ({ power }) => ({ value: machine.watts(Math.min(1, Math.max(0, power ?? 0))) }),
    burned: async (request) => {
      const [x, y] = place(request)
      const { columns = 0, rows = 0, cell = 0, soft } = request
      if (!(columns > 0 && rows > 0 && cell > 0) || columns * rows > MAX_PIXELS)
        throw new PanelError('Say how large the picture is, with columns, rows and cell.')
      const { tone, through } = await lying().picture(x, y, Math.floor(columns), Math.floor(rows), cell, soft)
      return { tone: Buffer.from(tone).toString('base64'), through: Buffer.from(through).toString('base64') }
    },
  }

  const answer = async (line: string): Promise<string> => {
    try {
      const request = JSON.parse(line) as Request
      const deed = deeds[request?.do]
      if (!deed) throw new PanelError(`“${request?.do}” cannot be done at the machine.`)
      return JSON.stringify({ ok: true, ...(await deed(request)) })
    } catch (cause) {
      return JSON.stringify({ ok: false, message: cause instanceof PanelError ? cause.message : 'That is no request.' })
    }
  }

  const serve = (socket: Socket): void => {
    let text = ''
    socket.on('error', () => {})
    socket.on('data', (data) => {
      text += data.toString('utf8')
      for (let end = text.indexOf('\n'); end >= 0; end = text.indexOf('\n')) {
        void answer(text.slice(0, end)).then((said) => socket.write(`${said}\n`))
        text = text.slice(end + 1)
      }
      if (text.length > 65_536) socket.destroy()
    })
  }
  const server = createServer(serve)
  return new Promise((resolve, reject) => {
    server.once('error', reject)
    server.listen(port, '127.0.0.1', () => resolve(server))
  })
}
