import { DataTypes, type QueryInterface } from 'sequelize'

/** Sheets, offcuts and blanks on the shelf, and what runs took of them. */
export async function up(tables: QueryInterface): Promise<void> {
  const time = (allowNull = false) => ({ type: DataTypes.DATE(3), allowNull })
  const text = (length: number, allowNull = false) => ({ type: DataTypes.STRING(length), allowNull })
  const long = (allowNull = false) => ({ type: DataTypes.TEXT('long'), allowNull })
  const number = (type: DataTypes.DataType) => ({ type, allowNull: false })
  await tables.createTable('stock', {
    id: { type: DataTypes.STRING(40), primaryKey: true },
    code: { ...text(12), unique: true },
    kind: text(8),
    name: text(200),
    material: text(40),
    thicknessMm: number(DataTypes.DOUBLE),
    piece: long(),
    areaMm2: number(DataTypes.DOUBLE),
    count: number(DataTypes.INTEGER),
    shelf: text(200),
    note: { type: DataTypes.TEXT, allowNull: false },
    photo: { type: DataTypes.CHAR(64), allowNull: true },
    recipe: text(40, true),
    jig: text(40, true),
    cents: number(DataTypes.INTEGER),
    createdAt: time(),
    updatedAt: time(),
    deletedAt: time(true),
  })
  await tables.createTable('stock_uses', {
    id: { type: DataTypes.STRING(40), primaryKey: true },
    stockId: text(40),
    runId: text(40),
    name: text(200),
    material: text(200),
    areaMm2: number(DataTypes.DOUBLE),
    cents: number(DataTypes.INTEGER),
    note: text(400),
    before: long(true),
    made: { type: DataTypes.TEXT, allowNull: false },
    at: time(),
    takenBackAt: time(true),
  })
  await tables.addIndex('stock_uses', ['runId', 'stockId'], { name: 'uses_of_run', unique: true })
  await tables.addIndex('stock_uses', ['at'], { name: 'uses_by_time' })
}
