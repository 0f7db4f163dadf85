import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type Sequelize,
} from 'sequelize'

/** What lies on the shelf. `piece` is JSON: outline, keep-outs, marks, grain. */
export class Stock extends Model<InferAttributes<Stock>, InferCreationAttributes<Stock>> {
  declare id: string
  declare code: string
  declare kind: 'sheet' | 'offcut' | 'blank'
  declare name: string
  declare material: string
  declare thicknessMm: number
  declare piece: string
  declare areaMm2: number
  declare count: number
  declare shelf: string
  declare note: string
  declare photo: string | null
  declare recipe: string | null
  declare jig: string | null
  declare cents: number
  declare createdAt: CreationOptional<Date>
  declare updatedAt: CreationOptional<Date>
  declare deletedAt: CreationOptional<Date | null>
}

/** What a run took of one thing on the shelf. */
export class StockUseRow extends Model<InferAttributes<StockUseRow>, InferCreationAttributes<StockUseRow>> {
  declare id: string
  declare stockId: string
  /** The first run on that piece; what makes it good takes nothing more. */
  declare runId: string
  declare name: string
  declare material: string
  declare areaMm2: number
  declare cents: number
  declare note: string
  /** What was there before, as JSON, so that it can be taken back; null where nothing was there any more. */
  declare before: string | null
  /** Ids of the offcuts that came from it, as JSON. */
  declare made: string
  declare at: Date
  declare takenBackAt: CreationOptional<Date | null>
}

export function defineStockModels(sequelize: Sequelize): void {
  const time = DataTypes.DATE(3)
  const id = DataTypes.STRING(40)
  Stock.init(
    {
      id: { type: id, primaryKey: true },
      code: DataTypes.STRING(12),
      kind: DataTypes.STRING(8),
      name: DataTypes.STRING(200),
      material: id,
      thicknessMm: DataTypes.DOUBLE,
      piece: DataTypes.TEXT('long'),
      areaMm2: DataTypes.DOUBLE,
      count: DataTypes.INTEGER,
      shelf: DataTypes.STRING(200),
      note: DataTypes.TEXT,
      photo: DataTypes.CHAR(64),
      recipe: id,
      jig: id,
      cents: DataTypes.INTEGER,
      createdAt: time,
      updatedAt: time,
      deletedAt: time,
    },
    { sequelize, tableName: 'stock', paranoid: true },
  )
  StockUseRow.init(
    {
      id: { type: id, primaryKey: true },
      stockId: id,
      runId: id,
      name: DataTypes.STRING(200),
      material: DataTypes.STRING(200),
      areaMm2: DataTypes.DOUBLE,
      cents: DataTypes.INTEGER,
      note: DataTypes.STRING(400),
      before: DataTypes.TEXT('long'),
      made: DataTypes.TEXT,
      at: time,
      takenBackAt: time,
    },
    { sequelize, timestamps: false, tableName: 'stock_uses' },
  )
}
