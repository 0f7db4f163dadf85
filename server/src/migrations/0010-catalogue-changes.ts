import { DataTypes, type QueryInterface } from 'sequelize'

/** What was changed of materials and recipes, with how they were before. */
export async function up(tables: QueryInterface): Promise<void> {
  await tables.createTable('catalogue_changes', {
    number: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
    materialId: { type: DataTypes.STRING(40), allowNull: false },
    recipeId: { type: DataTypes.STRING(40), allowNull: true },
    at: { type: DataTypes.DATE(3), allowNull: false },
    by: { type: DataTypes.STRING(80), allowNull: false },
    what: { type: DataTypes.STRING(300), allowNull: false },
    before: { type: DataTypes.TEXT('long'), allowNull: true },
  })
  await tables.addIndex('catalogue_changes', ['materialId', 'number'])
}
