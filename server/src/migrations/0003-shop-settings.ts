import { DataTypes, type QueryInterface } from 'sequelize'

/** What a shop has settled once for all jobs, each as JSON by its name. */
export async function up(tables: QueryInterface): Promise<void> {
  await tables.createTable('shop_settings', {
    name: { type: DataTypes.STRING(40), primaryKey: true },
    document: { type: DataTypes.TEXT('long'), allowNull: false },
  })
}
