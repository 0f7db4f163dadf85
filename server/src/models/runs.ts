import { DataTypes, type InferAttributes, type InferCreationAttributes, Model, type Sequelize } from 'sequelize'

/** One run of a job, or of a part of it, written down as it happens. */
export class Run extends Model<InferAttributes<Run>, InferCreationAttributes<Run>> {
  declare id: string
  declare machineId: string
  declare jobId: string | null
  declare jobRevision: number | null
  /** The run that this one makes good: on the same piece, with the same zero. */
  declare parentId: string | null
  declare name: string
  declare operator: string
  /** A phase of the link, or `carried`: saved as a file and run elsewhere. */
  declare phase: string
  declare reason: string
  /** The job as it was, and what of it was run, as JSON. */
  declare document: string
  /** What lists tell of it, as JSON. */
  declare brief: string
  declare scope: string
  /** The list before the start, as it was confirmed. */
  declare answers: string
  declare place: string | null
  declare lines: number
  declare estimateSeconds: number
  declare seconds: number
  /** Each operation with its estimated time, as JSON. */
  declare operations: string
  /** The box around all that is burned, machine mm, as JSON; null where nothing is. */
  declare bounds: string | null

  /** What was seen afterwards, by operation. */
  declare looks: string
  declare closing: string
  declare rating: number | null
  declare note: string
  declare photo: string | null
  declare startedAt: Date
  declare endedAt: Date | null
}

export class RunEvent extends Model<InferAttributes<RunEvent>, InferCreationAttributes<RunEvent>> {
  declare runId: string
  declare number: number
  declare phase: string
  declare text: string
  declare line: number
  declare seconds: number
  declare at: Date
}

/** What was burned, as a PNG: red is the tone, green what is cut through. */
export class RunBurn extends Model<InferAttributes<RunBurn>, InferCreationAttributes<RunBurn>> {
  declare runId: string
  declare cellMm: number
  /** Its corner, job mm. */
  declare x: number
  declare y: number
  declare picture: Buffer
}

/** A first connection that was gone through: settings compared, and the beam seen to go off. */
export class MachineCheck extends Model<InferAttributes<MachineCheck>, InferCreationAttributes<MachineCheck>> {
  declare machineId: string
  declare address: string
  declare operator: string
  declare settings: string
  declare checkedAt: Date
}

export function defineRunModels(sequelize: Sequelize): void {
  const key = (type: DataTypes.DataType) => ({ type, primaryKey: true })
  const bare = { sequelize, timestamps: false }
  const time = DataTypes.DATE(3)
  const text = DataTypes.TEXT('long')
  Run.init(
    {
      id: key(DataTypes.STRING(40)),
      machineId: DataTypes.STRING(40),
      jobId: DataTypes.STRING(40),
      jobRevision: DataTypes.INTEGER,
      parentId: DataTypes.STRING(40),
      name: DataTypes.STRING(200),
      operator: DataTypes.STRING(60),
      phase: DataTypes.STRING(16),
      reason: DataTypes.STRING(500),
      document: text,
      brief: DataTypes.TEXT,
      scope: text,
      answers: text,
      place: DataTypes.TEXT,
      lines: DataTypes.INTEGER,
      estimateSeconds: DataTypes.DOUBLE,
      seconds: DataTypes.DOUBLE,
      operations: text,
      bounds: DataTypes.TEXT,
      looks: text,
      closing: text,
      rating: DataTypes.INTEGER,
      note: DataTypes.TEXT,
      photo: DataTypes.CHAR(64),
      startedAt: time,
      endedAt: time,
    },
    { ...bare, tableName: 'runs' },
  )
  RunEvent.init(
    {
      runId: key(DataTypes.STRING(40)),
      number: key(DataTypes.INTEGER),
      phase: DataTypes.STRING(16),
      text: DataTypes.STRING(500),
      line: DataTypes.INTEGER,
      seconds: DataTypes.DOUBLE,
      at: time,
    },
    { ...bare, tableName: 'run_events' },
  )
  RunBurn.init(
    {
      runId: key(DataTypes.STRING(40)),
      cellMm: DataTypes.DOUBLE,
      x: DataTypes.DOUBLE,
      y: DataTypes.DOUBLE,
      picture: DataTypes.BLOB('long'),
    },
    { ...bare, tableName: 'run_burns' },
  )
  MachineCheck.init(
    {
      machineId: key(DataTypes.STRING(40)),
      address: DataTypes.STRING(120),
      operator: DataTypes.STRING(60),
      settings: text,
      checkedAt: time,
    },
    { ...bare, tableName: 'machine_checks' },
  )
}
