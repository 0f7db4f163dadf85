import { rmSync } from 'node:fs'
import type { DeskLive } from '@neotaxis/contract'
import { bringUpMachine, type Machine, type RunScope } from '@neotaxis/core'
import { type Report, runOn } from '@neotaxis/link'
import { nanoid } from 'nanoid'
import type { Logger } from 'pino'
import { Op } from 'sequelize'
import { Job, MachineRow } from '../models/index.ts'
import { MachineCheck, Run } from '../models/runs.ts'
import { Refusal } from '../refusal.ts'
import { photographRun } from '../runs/photograph-run.ts'
import type { PreparedRun } from '../runs/prepare-run.ts'
import { dropLeftPrograms, dropProgram, keepWithin, programInFile } from '../runs/program-file.ts'
import { ENDED, RunLog } from '../runs/run-log.ts'
import { runFolder, type Work } from '../work/work.ts'
import type { CameraReach } from './camera.ts'
import { Desk, type Reach, type ReadyRun } from './desk.ts'
import { layIn } from './lay-in.ts'
import { type Lease, Leases, type Self } from './leases.ts'
import { samePlace } from './parent-run.ts'
import { liveOf } from './relay.ts'

/** Simulated machines that were started beside the server, by the id of their profile. */
export type Simulated = ReadonlyMap<string, Reach>

/** When a signal comes. */
const aborted = (signal: AbortSignal): Promise<void> =>
  new Promise((resolve) => {
    if (signal.aborted) resolve()
    else signal.addEventListener('abort', () => resolve(), { once: true })
  })

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
  readonly scope: RunScope
  readonly operator: string
  readonly answers: readonly string[]
  readonly armed: boolean
  readonly parentId: string | null
}

const BEAT_MS = 2000
const OTHERS_MS = 400
/** So often a run that a machine still holds is tried to be taken up. */
const TAKE_UP_TRIES = 5
const FORGOTTEN = 'The server and the machine both forgot this run: the machine was switched off, or reset. Look at the piece.'
/** Programs of runs under way need no more than this, bytes; older ones that nobody uses go first. */
const PROGRAM_BUDGET = 4e9

export interface DesksSetting {
  readonly simulated: Simulated
  readonly log: Logger
  readonly work: Work
  readonly cameras?: ReadonlyMap<string, CameraReach>
}

/** All machines of the shop. Those that this server has a lease on are connected here; orders for others are passed on. */
export class Desks {
  onChange: () => void = () => {}
  readonly runLog: RunLog
  private readonly desks = new Map<string, Desk>()
  private readonly machines = new Map<string, Machine>()
  /** Profiles that are being kept: what is read meanwhile may be older. */
  private readonly saving = new Map<string, Promise<unknown>>()
  private readonly simulated: Simulated
  private readonly log: Logger
  private readonly work: Work
  private self: Self | undefined
  private leases: Leases | undefined
  /** Machines of other servers, and how they stand as those tell it. */
  private readonly others = new Map<string, Lease>()
  private othersLive: readonly DeskLive[] = []
  private beating: ReturnType<typeof setInterval> | undefined
  private looking: ReturnType<typeof setInterval> | undefined
  /** Runs that were under way when a server ended, until it is known what became of them. */
  private readonly found = new Map<string, Run>()
  /** How often each of them was tried to be taken up in vain. */
  private readonly tries = new Map<string, number>()
  /** Machines that are being taken. */
  private readonly claiming = new Map<string, Promise<void>>()
  private readonly programs = new Map<string, string>()
  private closed = false

  constructor({ simulated, log, work, cameras = new Map() }: DesksSetting) {
    this.simulated = simulated
    this.log = log
    this.work = work
    this.runLog = new RunLog(
      log,
      work,
      (machine) => this.simulated.get(machine)?.panel,
      (run, machine) => photographRun(run, machine, cameras),
    )
    this.runLog.onEnded = (id) => this.dropProgram(id)
  }

  /**
   * Reads the shop's machines, takes those that nobody has, finds runs that an earlier server left, and connects to what is known.
   * @param url where other servers on the same database reach this one
   */
  async open(url = ''): Promise<void> {
    dropLeftPrograms(runFolder(process.pid))
    this.self = { id: nanoid(14), url, secret: nanoid(40) }
    this.leases = new Leases(MachineRow.sequelize!, this.self)
    await this.readMachines()
    for (const id of this.machines.keys()) await this.claim(id)
    this.beating = setInterval(() => void this.beat().catch((err) => this.log.warn({ err }, 'no heartbeat')), BEAT_MS)
    this.looking = setInterval(() => void this.lookAtOthers(), OTHERS_MS)
  }

  /** Whether an order was passed on by a server on the same database. */
  isRelay(secret: string | undefined): boolean {
    return secret !== undefined && secret === this.self?.secret
  }

  private async readMachines(): Promise<void> {
    const rows = await MachineRow.findAll()
    for (const { id, version, document } of rows)
      if (!this.saving.has(id) && this.machines.get(id)?.version !== version)
        this.adopt(bringUpMachine(JSON.parse(document)) as Machine)
    const there = new Set(rows.map(({ id }) => id))
    for (const id of this.machines.keys()) if (!there.has(id)) this.forget(id)
  }

  /** Takes a machine where it is free: its desk is opened here, its connection made. Asked for again meanwhile, it is one. */
  private claim(id: string): Promise<void> {
    const under = this.claiming.get(id) ?? this.claimNow(id).finally(() => this.claiming.delete(id))
    this.claiming.set(id, under)
    return under
  }

  private async claimNow(id: string): Promise<void> {
    if (this.desks.has(id) || this.closed || !this.leases) return
    const lease = await this.leases.take(id)
    if (this.closed) return
    if (lease.serverId !== this.self?.id) {
      this.others.set(id, lease)
      return
    }
    this.others.delete(id)
    const desk = new Desk({
      machine: id,
      reach: () => this.reach(id),
      keeper: { changed: (run, now, instruction) => this.runLog.changed(run, now, instruction, id) },
      tell: () => this.onChange(),
      onReach: (report) => void this.reached(desk, report),
    })
    this.desks.set(id, desk)
    await this.findRun(id)
    const check = await MachineCheck.findByPk(id)
    const { address } = this.reach(id)
    desk.checked = check !== null && (check.address === address || this.simulated.has(id))
    if (address !== '' && (desk.checked || this.simulated.has(id) || this.found.has(id))) desk.connect().catch(() => {})
    this.onChange()
  }

  /** A run that was under way on a machine when the server that had it ended. */
  private async findRun(machineId: string): Promise<void> {
    const left = await Run.findAll({ where: { machineId, phase: { [Op.notIn]: ENDED } }, order: ['startedAt'] })
    for (const run of left) {
      const reason = 'The server ended in the middle: the machine brakes and stands dark by itself.'
      await this.runLog.event(run.id, 'away', reason, 0, run.seconds)
      await run.update({ phase: 'away', reason: 'The server ended in the middle of this run.' })
      const earlier = this.found.get(machineId)
      if (earlier) await this.giveUp(earlier)
      this.found.set(machineId, run)
    }
  }

  /** Says that this server is there, finds out what it has, and takes what became free. */
  private async beat(): Promise<void> {
    if (this.closed || !this.leases) return
    const mine = await this.leases.beat()
    await this.readMachines()
    for (const [id, desk] of this.desks)
      if (!mine.has(id)) {
        // It was silent for too long, and another server has the machine now: this one keeps its hands off.
        this.log.warn({ machine: id }, 'another server has this machine now')
        desk.close()
        this.desks.delete(id)
      }
    for (const id of this.machines.keys()) if (!this.desks.has(id)) await this.claim(id)
    keepWithin(runFolder(process.pid), PROGRAM_BUDGET, new Set(this.programs.values()))
  }

  private async lookAtOthers(): Promise<void> {
    const servers = new Map([...this.others.values()].map((lease) => [lease.serverId, lease]))
    if (servers.size === 0 && this.othersLive.length === 0) return
    const told = await Promise.all(
      [...servers.values()].map(async (lease) =>
        (await liveOf(lease))
          .filter(({ machine }) => this.others.get(machine)?.serverId === lease.serverId)
          .map((live) => ({ ...live, server: lease.url })),
      ),
    )
    const silent = [...this.others.values()].map((lease) => this.away(lease))
    const known = told.flat()
    const all = [...known, ...silent.filter(({ machine }) => !known.some((live) => live.machine === machine))]
    if (JSON.stringify(all) === JSON.stringify(this.othersLive)) return
    this.othersLive = all
    this.onChange()
  }

  /** How a machine is shown whose server says nothing. */
  private away({ machineId, url }: Lease): DeskLive {
    const { address, panel } = this.reach(machineId)
    return {
      machine: machineId,
      state: 'lost',
      trouble: `The server that has this machine (${url}) does not answer.`,
      address,
      simulated: panel !== undefined,
      checked: false,
      report: null,
      silent: false,
      noisy: false,
      holder: null,
      run: null,
      server: url,
    }
  }

  /** Who has a machine, where it is another server. */
  ownerOf(id: string): Lease | undefined {
    return this.desks.has(id) ? undefined : this.others.get(id)
  }

  /** Which machine a run is on, as far as it is known here. */
  machineOfRun(id: string): string | undefined {
    return this.all().find(({ run }) => run?.id === id)?.machine
  }

  private adopt(machine: Machine): void {
    this.machines.set(machine.id, machine)
    this.onChange()
  }

  /**
   * Keeps a profile that was changed on the version `base`, null for a new one. Of two that come at once for the same machine the second
   * is told that it came too late. @returns it with its version @throws Refusal
   */
  async save(machine: Machine, base: number | null): Promise<Machine> {
    const { id } = machine
    const mine = (this.saving.get(id) ?? Promise.resolve()).then(
      () => this.saveNow(machine, base),
      () => this.saveNow(machine, base),
    )
    this.saving.set(id, mine)
    try {
      return await mine
    } finally {
      if (this.saving.get(id) === mine) this.saving.delete(id)
    }
  }

  private async saveNow(machine: Machine, base: number | null): Promise<Machine> {
    const { id } = machine
    const now = (await MachineRow.findByPk(id, { attributes: ['version'] }))?.version ?? null
    if (now !== base)
      throw new Refusal(
        409,
        'changed',
        now === null ? 'This machine is not here any more.' : 'Somebody changed this machine meanwhile: load it again.',
      )
    const kept = { ...machine, version: (now ?? 0) + 1 }
    await this.know(kept)
    await MachineRow.upsert({ id, version: kept.version, document: JSON.stringify(kept) })
    return kept
  }

  /**
   * A machine is new, or its profile changed: it must be checked again before it burns anything, and its connection is made anew.
   * @throws Refusal while something is done with it
   */
  private async know(machine: Machine): Promise<void> {
    const desk = this.desks.get(machine.id)
    const before = this.machines.get(machine.id)
    const changed = before !== undefined && profileOf(before) !== profileOf(machine)
    if (changed && desk?.isBusy)
      throw new Refusal(409, 'running', 'Something is done with this machine now: change its profile when it stands.')
    if (changed) await MachineCheck.destroy({ where: { machineId: machine.id } })
    const wasLinked = desk !== undefined && !['off', 'lost'].includes(desk.live().state)
    this.adopt(machine)
    if (changed && desk) {
      desk.checked = false
      desk.disconnect()
      if (wasLinked && this.reach(machine.id).address !== '') desk.connect().catch(() => {})
    }
    await this.claim(machine.id)
  }

  forget(id: string): void {
    this.desks.get(id)?.close()
    if (this.desks.delete(id)) void this.leases?.release(id).catch(() => {})
    this.machines.delete(id)
    this.others.delete(id)
    this.onChange()
  }

  private reach(id: string): Reach {
    const address = this.machines.get(id)?.address ?? ''
    const simulated = this.simulated.get(id)
    return address === '' || address === simulated?.address ? (simulated ?? { address }) : { address }
  }

  all(): DeskLive[] {
    return [...[...this.desks.values()].map((desk) => desk.live()), ...this.othersLive]
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

  /** The first connection was gone through: kept with the address that it counts for. */
  async check(id: string, operator: string): Promise<void> {
    const desk = this.desk(id)
    const settings = JSON.stringify(Object.fromEntries(await desk.settings()))
    const { address } = desk.live()
    await MachineCheck.upsert({ machineId: id, address, operator, settings, checkedAt: new Date() })
    desk.checked = true
    this.onChange()
  }

  private async giveUp(run: Run, reason = FORGOTTEN): Promise<void> {
    await run.update({ phase: 'lost', reason, endedAt: new Date() })
    await this.runLog.event(run.id, 'lost', reason, 0, run.seconds)
  }

  /** A connection stands: a run that the last server left is taken up, held, or its loss is said. */
  private async reached(desk: Desk, report: Report): Promise<void> {
    const run = this.found.get(desk.machine)
    if (!run) return
    this.found.delete(desk.machine)
    try {
      if (runOn(report) !== run.id) {
        await this.giveUp(run)
        return
      }
      const scope = JSON.parse(run.scope) as RunScope
      const { id, jobId, name, operator, startedAt } = run
      const facts = { id, jobId, name, operator, only: scope.only ?? null, scope, startedAt: startedAt.getTime() }
      const prepare = async (signal: AbortSignal): Promise<ReadyRun> => {
        const { prepared } = await this.work.run('prepareRun', { id, job: null, scope }, { signal })
        this.programs.set(id, prepared.file)
        return { facts, prepared, program: programInFile(prepared) }
      }
      await desk.start(operator, name, prepare, { adopt: true })
    } catch (cause) {
      // Stopped while it was taken up: it is over.
      if (cause instanceof Refusal && cause.code === 'stopped') {
        await run.update({ phase: 'stopped', reason: 'Stopped by the operator.', endedAt: new Date() })
        return
      }
      this.log.error({ err: cause, run: run.id }, 'a run could not be taken up')
      const tries = (this.tries.get(run.id) ?? 0) + 1
      this.tries.set(run.id, tries)
      if (tries >= TAKE_UP_TRIES) {
        await this.giveUp(run, 'The machine holds this run, but it could not be taken up again. Look at the piece.')
        return
      }
      // It is looked for again, as where the connection breaks: the machine holds it meanwhile.
      this.found.set(desk.machine, run)
      desk.reachAgain('The run that it holds could not be taken up yet: it is tried again.')
    }
  }

  /**
   * Starts a run: the machine is taken first, then its program is made, and everything about it is in the database before the first
   * line is sent. A stop at any moment ends it. @returns its id @throws Refusal
   */
  async start(machineId: string, wish: RunWish): Promise<string> {
    const desk = this.desk(machineId)
    const { scope, operator, jobId, jobRevision, parentId, answers } = wish
    if (!desk.checked)
      throw new Refusal(
        409,
        'not-checked',
        'This machine was never checked: go through its first connection before it burns anything.',
      )
    const id = nanoid(14)
    const prepare = async (signal: AbortSignal): Promise<ReadyRun> => {
      const ready = await this.work.run('prepareRun', { id, job: { id: jobId, revision: jobRevision }, scope }, { signal })
      const { prepared, document, name } = ready
      this.programs.set(id, prepared.file)
      await this.checkWish(machineId, wish, ready)
      const startedAt = new Date()
      const { lines, seconds, operations, bounds } = prepared
      const written = { id, jobId, jobRevision, parentId, document, scope, operator, answers, phase: 'starting', startedAt }
      await this.work.run('writeRun', { ...written, prepared: { lines, seconds, operations, bounds } })
      if (desk.hasPanel) {
        // What was burned before is looked at before more is burned, or the piece taken out; who stops does not wait for that.
        await Promise.race([this.runLog.looked(machineId), aborted(signal)])
        if (!signal.aborted && parentId === null) await layIn(desk.panelPort(), ready.laid)
      }
      const facts = { id, jobId, name, operator, only: scope.only ?? null, scope, startedAt: startedAt.getTime() }
      return { facts, prepared, program: programInFile(prepared) }
    }
    try {
      const row = await this.nameOf(jobId)
      await desk.start(operator, row, prepare, { armed: wish.armed })
    } catch (cause) {
      await Run.destroy({ where: { id, phase: 'starting' } })
      this.dropProgram(id)
      throw cause
    }
    return id
  }

  private async nameOf(jobId: string): Promise<string> {
    const row = await Job.findByPk(jobId, { attributes: ['name'] })
    if (!row) throw new Refusal(404, 'no-job', 'This job is not here any more.')
    return row.name
  }

  /** What must hold before anything burns. @throws Refusal */
  private async checkWish(machineId: string, wish: RunWish, { prepared, ...ready }: PreparedRun): Promise<void> {
    if (ready.machineId !== machineId)
      throw new Refusal(409, 'other-machine', `This job is planned for ${ready.machineName}: plan it for this machine first.`)
    if (prepared.stops.length > 0) throw new Refusal(409, 'stops', `It cannot run: ${prepared.stops[0]}`)
    if (wish.parentId !== null) {
      await samePlace(wish.parentId, machineId, wish.jobId, ready.laid)
      return
    }
    if (prepared.preflight.some((item) => !wish.answers.includes(item)))
      throw new Refusal(409, 'not-confirmed', 'Go through the list before the start: some of it is not confirmed.')
  }

  private dropProgram(id: string): void {
    const file = this.programs.get(id)
    this.programs.delete(id)
    if (file) dropProgram(file)
  }

  /** As if this server were killed: it does nothing any more, and gives nothing back. */
  abandon(): void {
    this.closed = true
    clearInterval(this.beating)
    clearInterval(this.looking)
    for (const desk of this.desks.values()) desk.close()
    this.desks.clear()
  }

  /** The server stops: machines hold by themselves, runs are found again by the next one. */
  async close(): Promise<void> {
    this.abandon()
    await this.runLog.settled()
    await this.leases?.release().catch(() => {})
    rmSync(runFolder(process.pid), { recursive: true, force: true })
  }
}

/** All of a profile that what burns depends on: not its name. */
function profileOf(machine: Machine): string {
  const { name: _name, version: _version, ...profile } = machine
  return JSON.stringify(profile)
}
