import { QueryTypes, type Sequelize } from 'sequelize'

/** A server that has not said for so long that it is there has its machines no more, s. */
export const LEASE_SECONDS = 6

/** Who has a machine. */
export interface Lease {
  readonly machineId: string
  readonly serverId: string
  readonly url: string
  readonly secret: string
}

/** This server, as others on the same database know it. */
export interface Self {
  readonly id: string
  /** Where others reach it. */
  readonly url: string
  /** By which it knows that an order was passed on by one of them. */
  readonly secret: string
}

/**
 * Which server has which machine: rows with a heartbeat, by the clock of the database alone. Taking a row is one statement: of two
 * servers that try at once one has it.
 */
export class Leases {
  private readonly sequelize: Sequelize
  private readonly self: Self

  constructor(sequelize: Sequelize, self: Self) {
    this.sequelize = sequelize
    this.self = self
  }

  /** Takes a machine where nobody has it, or whoever had it is silent. @returns who has it now */
  async take(machineId: string): Promise<Lease> {
    const { id, url, secret } = this.self
    // Assignments run from left to right: beatAt comes last, and until then tells how old the row is.
    const free = `(serverId = VALUES(serverId) OR beatAt < NOW(3) - INTERVAL ${LEASE_SECONDS} SECOND)`
    await this.sequelize.query(
      `INSERT INTO machine_leases (machineId, serverId, url, secret, beatAt) VALUES (:machineId, :id, :url, :secret, NOW(3))
       ON DUPLICATE KEY UPDATE
         url = IF(${free}, VALUES(url), url),
         secret = IF(${free}, VALUES(secret), secret),
         serverId = IF(${free}, VALUES(serverId), serverId),
         beatAt = IF(serverId = VALUES(serverId), NOW(3), beatAt)`,
      { replacements: { machineId, id, url, secret } },
    )
    const [lease] = await this.sequelize.query<Lease>(
      'SELECT machineId, serverId, url, secret FROM machine_leases WHERE machineId = :machineId',
      { replacements: { machineId }, type: QueryTypes.SELECT },
    )
    return lease
  }

  /** Says that this server is there. @returns the machines that it still has */
  async beat(): Promise<ReadonlySet<string>> {
    const { id } = this.self
    await this.sequelize.query('UPDATE machine_leases SET beatAt = NOW(3) WHERE serverId = :id', { replacements: { id } })
    const rows = await this.sequelize.query<{ machineId: string }>('SELECT machineId FROM machine_leases WHERE serverId = :id', {
      replacements: { id },
      type: QueryTypes.SELECT,
    })
    return new Set(rows.map(({ machineId }) => machineId))
  }

  /** Gives machines back: the next server need not wait. */
  async release(machineId?: string): Promise<void> {
    const { id } = this.self
    const one = machineId === undefined ? '' : ' AND machineId = :machineId'
    await this.sequelize.query(`DELETE FROM machine_leases WHERE serverId = :id${one}`, { replacements: { id, machineId } })
  }
}
