import { DataTypes, type QueryInterface } from 'sequelize'

/** Cameras over beds, and photos of the bed after runs. */
export async function up(tables: QueryInterface): Promise<void> {
  const time = { type: DataTypes.DATE(3), allowNull: true }
  const long = { type: DataTypes.TEXT('long'), allowNull: true }
  const asset = { type: DataTypes.CHAR(64), allowNull: true }
  await tables.createTable('cameras', {
    machine: { type: DataTypes.STRING(46), primaryKey: true },
    address: { type: DataTypes.STRING(400), allowNull: false },
    calibration: long,
    calibratedAt: time,
    empty: asset,
    emptyAt: time,
  })
  await tables.createTable('run_photos', {
    runId: { type: DataTypes.STRING(40), primaryKey: true },
    photo: { type: DataTypes.CHAR(64), allowNull: false },
    calibration: { type: DataTypes.TEXT('long'), allowNull: false },
    takenAt: { type: DataTypes.DATE(3), allowNull: false },
  })
}
