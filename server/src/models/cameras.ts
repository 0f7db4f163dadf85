import { DataTypes, type InferAttributes, type InferCreationAttributes, Model, type Sequelize } from 'sequelize'

/** The camera over a machine's bed, or at its head: `MACHINE@head`. `calibration` is JSON. */
export class CameraRow extends Model<InferAttributes<CameraRow>, InferCreationAttributes<CameraRow>> {
  declare machine: string
  declare address: string
  declare calibration: string | null
  declare calibratedAt: Date | null
  /** A photo of the empty bed: an asset. */
  declare empty: string | null
  declare emptyAt: Date | null
}

/** The bed after a run, and how the camera saw it then. */
export class RunPhotoRow extends Model<InferAttributes<RunPhotoRow>, InferCreationAttributes<RunPhotoRow>> {
  declare runId: string
  declare photo: string
  declare calibration: string
  declare takenAt: Date
}

export function defineCameraModels(sequelize: Sequelize): void {
  CameraRow.init(
    {
      machine: { type: DataTypes.STRING(46), primaryKey: true },
      address: DataTypes.STRING(400),
      calibration: DataTypes.TEXT('long'),
      calibratedAt: DataTypes.DATE(3),
      empty: DataTypes.CHAR(64),
      emptyAt: DataTypes.DATE(3),
    },
    { sequelize, tableName: 'cameras', timestamps: false },
  )
  RunPhotoRow.init(
    {
      runId: { type: DataTypes.STRING(40), primaryKey: true },
      photo: DataTypes.CHAR(64),
      calibration: DataTypes.TEXT('long'),
      takenAt: DataTypes.DATE(3),
    },
    { sequelize, tableName: 'run_photos', timestamps: false },
  )
}
