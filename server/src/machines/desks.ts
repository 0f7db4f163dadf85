import { bringUpMachine, type JobDocument, type Machine, type RunScope } from '@neotaxis/core'
import { type Report, runOn } from '@neotaxis/link'
import { nanoid } from 'nanoid'
import type { Logger } from 'pino'
import { Op } from 'sequelize'
import { MachineRow } from '../models/index.ts'
import { MachineCheck, Run } from '../models/runs.ts'
import { Refusal } from '../refusal.ts'
import { prepareRun } from '../runs/prepare.ts'
import { programInFile } from '../runs/program-file.ts'
import { ENDED, RunLog } from '../runs/run-log.ts'
import { keepRun } from '../runs/run-row.ts'
import { Desk, type DeskLive, type Reach } from './desk.ts'
import { atPanel } from './panel-client.ts'

/** Simulated machines that were started beside the server, by the id of their profile. */
export type Simulated = ReadonlyMap<string, Reach>

/** `bench-60=43001/43002,scan-20=43003/43004`: profile, port, port of its panel. */
export function readSimulated(text: string | undefined): Simulated {
  const found = new Map<string, Reach>()
  for (const part of (text ?? '').split(',')) {
    const match = /^([\w-]+)=(\d+)\/(\d+)$/.exec(part.trim())
    if (match) found.set(match[1], { address: `tcp://127.0.0.1:${match[2]}`, panel: Number(match[3]) })
  }
  return found
}

/** What somebody wants to run. */
export interface RunWish {
  readonly jobId: string
  readonly jobRevision: number
  readonly document: JobDocument
  readonly scope: RunScope
  readonly operator: string
  readonly answers: readonly string[]
  readonly armed: boolean
  readonly parentId: string | null
}

/** All machines of the shop. Their connections belong to this process, and to no other. */
export class Desks {
  onChange: () => void = () => {}
  readonly runLog: RunLog
  private readonly desks = new Map<string, Desk>()
  private readonly machines = new Map<string, Machine>()
  private readonly simulated: Simulated
  private readonly log: Logger
  /** Runs that were under way when the server ended, until it is known what became of them. */
  private readonly found = new Map<string, Run>()

  constructor(simulated: Simulated, log: Logger) {
    this.simulated = simulated
    this.log = log
    this.runLog = new RunLog(log, (machine) => this.simulated.get(machine)?.panel)
  }

  /** Reads the shop's machines, finds runs that an earlier server left, and connects to what is known. */
  async open(): Promise<void> {
    const checks = await MachineCheck.findAll()
    for (const row of await MachineRow.findAll()) this.know(bringUpMachine(JSON.parse(row.document)) as Machine)
    const left = await Run.findAll({ where: { phase: { [Op.notIn]: ENDED } } })
    for (const run of left) {
      await this.runLog.event(
        run.id,
        'away',
        'The server ended in the middle: the machine brakes and stands dark by itself.',
        0,
        run.seconds,
      )
      await run.update({ phase: 'away', reason: 'The server ended in the middle of this run.' })
      this.found.set(run.machineId, run)
    }
    for (const desk of this.desks.values()) {
      const check = checks.find(({ machineId }) => machineId === desk.machine)
      const { address } = this.reach(desk.machine)
      desk.checked = check !== undefined && (check.address === address || this.simulated.has(desk.machine))
      if (address !== '' && (desk.checked || this.simulated.has(desk.machine) || this.found.has(desk.machine)))
        desk.connect().catch(() => {})
    }
  }

  /** A machine is new, or its profile changed. */
  know(machine: Machine): void {
    this.machines.set(machine.id, machine)
    if (this.desks.has(machine.id)) return
    const desk = new Desk(
      machine.id,
      () => this.reach(machine.id),
      this.runLog,
      () => this.onChange(),
    )
    desk.onReach = (report) => void this.reached(desk, report)
    this.desks.set(machine.id, desk)
  }

  forget(id: string): void {
    this.desks.get(id)?.close()
    this.desks.delete(id)
    this.machines.delete(id)
    this.onChange()
  }

  private reach(id: string): Reach {
    const address = this.machines.get(id)?.address ?? ''
    const simulated = this.simulated.get(id)
    return address === '' || address === simulated?.address ? (simulated ?? { address }) : { address }
  }

  all(): DeskLive[] {
    return [...this.desks.values()].map((desk) => desk.live())
  }

  desk(id: string): Desk {
    const desk = this.desks.get(id)
    if (!desk) throw new Refusal(404, 'no-machine', 'There is no such machine.')
    return desk
  }

  machine(id: string): Machine {
    const machine = this.machines.get(id)
    if (!machine) throw new Refusal(404, 'no-machine', 'There is no such machine.')
    return machine
  }

  /** The desk on which a run goes on. */
  deskOfRun(id: string): Desk {
    const desk = [...this.desks.values()].find((one) => one.live().run?.id === id)
    if (!desk) throw new Refusal(409, 'not-running', 'This run is not on a machine any more.')
    return desk
  }

  /** A connection stands: a run that the last server left is taken up, held, or its loss is said. */
  private async reached(desk: Desk, report: Report): Promise<void> {
    const run = this.found.get(desk.machine)
    if (!run) return
    this.found.delete(desk.machine)
    try {
      if (runOn(report) !== run.id) {
        const reason =
          'The server and the machine both forgot this run: the machine was switched off, or reset. Look at the piece.'
        await run.update({ phase: 'lost', reason, endedAt: new Date() })
        await this.runLog.event(run.id, 'lost', reason, 0, run.seconds)
        return
      }
      const document = JSON.parse(run.document) as JobDocument
      const scope = JSON.parse(run.scope) as RunScope
      const prepared = await prepareRun(run.id, document, scope)
      const facts = {
        id: run.id,
        jobId: run.jobId,
        name: run.name,
        operator: run.operator,
        only: scope.only ?? null,
        startedAt: run.startedAt.getTime(),
      }
      await desk.run(facts, prepared, programInFile(prepared.file), { adopt: true })
    } catch (cause) {
      this.log.error({ err: cause }, 'a run could not be taken up')
    }
  }

  /** Starts a run: everything about it is in the database before the first line is sent. */
  async start(machineId: string, wish: RunWish): Promise<string> {
    const desk = this.desk(machineId)
    const { document, scope, operator } = wish
    if (document.machine.id !== machineId)
      throw new Refusal(409, 'other-machine', `This job is planned for ${document.machine.name}: plan it for this machine first.`)
    if (!desk.checked)
      throw new Refusal(
        409,
        'not-checked',
        'This machine was never checked: go through its first connection before it burns anything.',
      )
    const id = nanoid(14)
    const prepared = await prepareRun(id, document, scope)
    if (prepared.stops.length > 0) throw new Refusal(409, 'stops', `It cannot run: ${prepared.stops[0]}`)
    const open = prepared.preflight.filter((item) => !wish.answers.includes(item))
    if (wish.parentId === null && open.length > 0)
      throw new Refusal(409, 'not-confirmed', 'Go through the list before the start: some of it is not confirmed.')
    const startedAt = new Date()
    const { jobId, jobRevision, parentId, answers } = wish
    await keepRun(
      { id, jobId, jobRevision, parentId, document, scope, operator, answers, phase: 'starting', startedAt },
      prepared,
    )
    try {
      if (desk.hasPanel && wish.parentId === null) await layIn(desk.panelPort(), document)
      const facts = {
        id,
        jobId: wish.jobId,
        name: document.name,
        operator,
        only: scope.only ?? null,
        startedAt: startedAt.getTime(),
      }
      await desk.run(facts, prepared, programInFile(prepared.file), { armed: wish.armed })
    } catch (cause) {
      await Run.destroy({ where: { id } })
      throw cause
    }
    return id
  }

  /** The server stops: machines hold by themselves, runs are found again by the next one. */
  async close(): Promise<void> {
    for (const desk of this.desks.values()) desk.close()
    await this.runLog.settled()
  }
}

/** The hand that lays a fresh workpiece into a simulated machine. */
async function layIn(panel: number, { material, workpiece, onBed, machine }: JobDocument): Promise<void> {
  const y0 = machine.zero === 'front-left' ? machine.bed.heightMm - onBed.yMm - workpiece.heightMm : onBed.yMm
  const laid = {
    material: material.id.replace(/-\d+$/, ''),
    thickness: workpiece.thicknessMm,
    x0: onBed.xMm,
    y0,
    x1: onBed.xMm + workpiece.widthMm,
    y1: y0 + workpiece.heightMm,
  }
  // A material that the stand-in does not have stays outside: it burns air then.
  await atPanel(panel, { do: 'lay', laid }).catch(() => atPanel(panel, { do: 'lift' }))
}
