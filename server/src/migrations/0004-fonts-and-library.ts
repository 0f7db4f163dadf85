import { DataTypes, type QueryInterface } from 'sequelize'

/** The shop's own fonts, and artwork that it keeps across jobs. */
export async function up(tables: QueryInterface): Promise<void> {
  await tables.createTable('fonts', {
    sha256: { type: DataTypes.CHAR(64), primaryKey: true, references: { model: 'assets', key: 'sha256' } },
    name: { type: DataTypes.STRING(200), allowNull: false },
    shipped: { type: DataTypes.BOOLEAN, allowNull: false },
    createdAt: { type: DataTypes.DATE(3), allowNull: false },
  })
  await tables.createTable('artwork', {
    id: { type: DataTypes.STRING(40), primaryKey: true },
    name: { type: DataTypes.STRING(200), allowNull: false },
    sha256: { type: DataTypes.CHAR(64), allowNull: false, references: { model: 'assets', key: 'sha256' } },
    facts: { type: DataTypes.TEXT, allowNull: false },
    drawn: { type: DataTypes.TEXT('long'), allowNull: true },
    tags: { type: DataTypes.TEXT, allowNull: false },
    origin: { type: DataTypes.STRING(400), allowNull: false },
    licence: { type: DataTypes.TEXT, allowNull: false },
    picture: { type: DataTypes.BLOB('medium'), allowNull: false },
    createdAt: { type: DataTypes.DATE(3), allowNull: false },
    updatedAt: { type: DataTypes.DATE(3), allowNull: false },
    deletedAt: { type: DataTypes.DATE(3), allowNull: true },
  })
}
