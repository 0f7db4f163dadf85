import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type Sequelize,
} from 'sequelize'

/** A font that texts can be written with: its file is an asset. */
export class FontRow extends Model<InferAttributes<FontRow>, InferCreationAttributes<FontRow>> {
  declare sha256: string
  declare name: string
  declare shipped: boolean
  declare createdAt: CreationOptional<Date>
}

/** Artwork of the library: its file is an asset. `facts`, `drawn`, `tags` and `licence` are JSON. */
export class Artwork extends Model<InferAttributes<Artwork>, InferCreationAttributes<Artwork>> {
  declare id: string
  declare name: string
  declare sha256: string
  declare facts: string
  declare drawn: string | null
  declare tags: string
  declare origin: string
  declare licence: string
  declare picture: Buffer
  declare createdAt: CreationOptional<Date>
  declare updatedAt: CreationOptional<Date>
  declare deletedAt: CreationOptional<Date | null>
}

export function defineArtworkModels(sequelize: Sequelize): void {
  const time = DataTypes.DATE(3)
  FontRow.init(
    {
      sha256: { type: DataTypes.CHAR(64), primaryKey: true },
      name: DataTypes.STRING(200),
      shipped: DataTypes.BOOLEAN,
      createdAt: time,
    },
    { sequelize, updatedAt: false, tableName: 'fonts' },
  )
  Artwork.init(
    {
      id: { type: DataTypes.STRING(40), primaryKey: true },
      name: DataTypes.STRING(200),
      sha256: DataTypes.CHAR(64),
      facts: DataTypes.TEXT,
      drawn: DataTypes.TEXT('long'),
      tags: DataTypes.TEXT,
      origin: DataTypes.STRING(400),
      licence: DataTypes.TEXT,
      picture: DataTypes.BLOB('medium'),
      createdAt: time,
      updatedAt: time,
      deletedAt: time,
    },
    { sequelize, tableName: 'artwork', paranoid: true },
  )
}
