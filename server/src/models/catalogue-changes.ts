import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type Sequelize,
} from 'sequelize'

/** Something that was changed of a material or one of its recipes, and how it was before. */
export class CatalogueChangeRow extends Model<InferAttributes<CatalogueChangeRow>, InferCreationAttributes<CatalogueChangeRow>> {
  declare number: CreationOptional<number>
  declare materialId: string
  declare recipeId: string | null
  declare at: Date
  declare by: string
  declare what: string
  declare before: string | null
}

export function defineCatalogueChanges(sequelize: Sequelize): void {
  CatalogueChangeRow.init(
    {
      number: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
      materialId: DataTypes.STRING(40),
      recipeId: DataTypes.STRING(40),
      at: DataTypes.DATE(3),
      by: DataTypes.STRING(80),
      what: DataTypes.STRING(300),
      before: DataTypes.TEXT('long'),
    },
    { sequelize, tableName: 'catalogue_changes', timestamps: false },
  )
}
