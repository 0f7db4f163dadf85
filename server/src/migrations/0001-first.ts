import { DataTypes, type QueryInterface } from 'sequelize'

/** Jobs with their revisions, assets in chunks, materials, recipes, machines, and the pictures of the job board. */
export async function up(tables: QueryInterface): Promise<void> {
  const id = { type: DataTypes.STRING(40), primaryKey: true }
  const document = { type: DataTypes.TEXT('long'), allowNull: false }
  const time = { type: DataTypes.DATE(3), allowNull: false }
  await tables.createTable('assets', {
    sha256: { type: DataTypes.CHAR(64), primaryKey: true },
    bytes: { type: DataTypes.INTEGER, allowNull: false },
    chunks: { type: DataTypes.INTEGER, allowNull: false },
    widthPx: { type: DataTypes.INTEGER, allowNull: false },
    heightPx: { type: DataTypes.INTEGER, allowNull: false },
    hasAlpha: { type: DataTypes.BOOLEAN, allowNull: false },
    pixelsPerMm: { type: DataTypes.DOUBLE },
    createdAt: time,
  })
  await tables.createTable('asset_chunks', {
    sha256: { type: DataTypes.CHAR(64), primaryKey: true },
    number: { type: DataTypes.INTEGER, primaryKey: true },
    data: { type: DataTypes.BLOB('long'), allowNull: false },
  })
  await tables.createTable('jobs', {
    id,
    name: { type: DataTypes.STRING(200), allowNull: false },
    revision: { type: DataTypes.INTEGER, allowNull: false },
    document,
    branchOf: { type: DataTypes.STRING(40) },
    createdAt: time,
    updatedAt: time,
    deletedAt: { type: DataTypes.DATE(3) },
  })
  await tables.addIndex('jobs', ['deletedAt', 'updatedAt'])
  await tables.createTable('revisions', {
    jobId: { type: DataTypes.STRING(40), primaryKey: true },
    revision: { type: DataTypes.INTEGER, primaryKey: true },
    editId: { type: DataTypes.STRING(40), allowNull: false },
    name: { type: DataTypes.STRING(200), allowNull: false },
    kind: { type: DataTypes.STRING(8), allowNull: false },
    patches: { type: DataTypes.TEXT('long'), allowNull: false },
    inverse: { type: DataTypes.TEXT('long'), allowNull: false },
    createdAt: time,
  })
  await tables.addIndex('revisions', ['jobId', 'editId'], { unique: true })
  await tables.createTable('materials', { id, version: { type: DataTypes.INTEGER, allowNull: false }, document })
  await tables.createTable('recipes', { id, materialId: { type: DataTypes.STRING(40), allowNull: false }, document })
  await tables.addIndex('recipes', ['materialId'])
  await tables.createTable('machines', { id, version: { type: DataTypes.INTEGER, allowNull: false }, document })
  await tables.createTable('cards', {
    content: { type: DataTypes.CHAR(64), primaryKey: true },
    summary: { type: DataTypes.TEXT, allowNull: false },
    picture: { type: DataTypes.BLOB('long'), allowNull: false },
    createdAt: time,
  })
}
