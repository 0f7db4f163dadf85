import { DataTypes, type QueryInterface } from 'sequelize'

/** Runs with what happened in them and what was burned, and what is known of each machine's connection. */
export async function up(tables: QueryInterface): Promise<void> {
  const time = { type: DataTypes.DATE(3), allowNull: false }
  const text = { type: DataTypes.TEXT('long'), allowNull: false }
  await tables.createTable('runs', {
    id: { type: DataTypes.STRING(40), primaryKey: true },
    machineId: { type: DataTypes.STRING(40), allowNull: false },
    jobId: { type: DataTypes.STRING(40) },
    jobRevision: { type: DataTypes.INTEGER },
    parentId: { type: DataTypes.STRING(40) },
    name: { type: DataTypes.STRING(200), allowNull: false },
    operator: { type: DataTypes.STRING(60), allowNull: false },
    phase: { type: DataTypes.STRING(16), allowNull: false },
    reason: { type: DataTypes.STRING(500), allowNull: false },
    document: text,
    scope: text,
    answers: text,
    place: { type: DataTypes.TEXT },
    lines: { type: DataTypes.INTEGER, allowNull: false },
    estimateSeconds: { type: DataTypes.DOUBLE, allowNull: false },
    seconds: { type: DataTypes.DOUBLE, allowNull: false },
    operations: text,
    bounds: { type: DataTypes.TEXT },
    looks: text,
    closing: text,
    rating: { type: DataTypes.INTEGER },
    note: { type: DataTypes.TEXT, allowNull: false },
    photo: { type: DataTypes.CHAR(64) },
    startedAt: time,
    endedAt: { type: DataTypes.DATE(3) },
  })
  await tables.addIndex('runs', ['startedAt'])
  await tables.addIndex('runs', ['machineId', 'phase'])
  await tables.createTable('run_events', {
    runId: { type: DataTypes.STRING(40), primaryKey: true },
    number: { type: DataTypes.INTEGER, primaryKey: true },
    phase: { type: DataTypes.STRING(16), allowNull: false },
    text: { type: DataTypes.STRING(500), allowNull: false },
    line: { type: DataTypes.INTEGER, allowNull: false },
    seconds: { type: DataTypes.DOUBLE, allowNull: false },
    at: time,
  })
  await tables.createTable('run_burns', {
    runId: { type: DataTypes.STRING(40), primaryKey: true },
    cellMm: { type: DataTypes.DOUBLE, allowNull: false },
    x: { type: DataTypes.DOUBLE, allowNull: false },
    y: { type: DataTypes.DOUBLE, allowNull: false },
    picture: { type: DataTypes.BLOB('long'), allowNull: false },
  })
  await tables.createTable('machine_checks', {
    machineId: { type: DataTypes.STRING(40), primaryKey: true },
    address: { type: DataTypes.STRING(120), allowNull: false },
    operator: { type: DataTypes.STRING(60), allowNull: false },
    settings: text,
    checkedAt: time,
  })
}
