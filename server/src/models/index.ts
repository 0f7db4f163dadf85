import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type Sequelize,
} from 'sequelize'

import { defineArtworkModels } from './artwork.ts'
import { defineCameraModels } from './cameras.ts'
import { defineCatalogueChanges } from './catalogue-changes.ts'
import { definePeopleModels } from './people.ts'
import { defineRunModels } from './runs.ts'
import { defineStockModels } from './stock.ts'

/** The bytes of an asset stand in chunks, so that no packet grows too large. */
export class Asset extends Model<InferAttributes<Asset>, InferCreationAttributes<Asset>> {
  declare sha256: string
  declare bytes: number
  declare chunks: number
  declare widthPx: number
  declare heightPx: number
  declare hasAlpha: boolean
  declare pixelsPerMm: number | null
  declare createdAt: CreationOptional<Date>
}

export class AssetChunk extends Model<InferAttributes<AssetChunk>, InferCreationAttributes<AssetChunk>> {
  declare sha256: string
  declare number: number
  declare data: Buffer
}

/** A job: its newest document. What led there stands in its revisions. */
export class Job extends Model<InferAttributes<Job>, InferCreationAttributes<Job>> {
  declare id: string
  declare name: string
  declare revision: number
  declare document: string
  /** What lists tell of it, as JSON. */
  declare brief: string
  declare branchOf: string | null
  /** The revision from which on its edits are of this version of the document; older ones are kept to look at. */
  declare historyFrom: CreationOptional<number>
  /** Its document as the version before wrote it; null where it never had another. */
  declare earlier: CreationOptional<string | null>
  /** Why it cannot be brought up to this version, as a sentence; null where it is. */
  declare trouble: CreationOptional<string | null>
  declare createdAt: CreationOptional<Date>
  declare updatedAt: CreationOptional<Date>
  declare deletedAt: CreationOptional<Date | null>
}

/** One edit of a job: its patches, and the way back. */
export class Revision extends Model<InferAttributes<Revision>, InferCreationAttributes<Revision>> {
  declare jobId: string
  declare revision: number
  declare editId: string
  declare name: string
  declare kind: 'edit' | 'undo' | 'redo'
  /** Of an undo or a redo: the edit that it takes back. */
  declare ofEdit: string | null
  declare patches: string
  declare inverse: string
  declare createdAt: CreationOptional<Date>
}

/** A material without its recipes, as JSON. */
export class MaterialRow extends Model<InferAttributes<MaterialRow>, InferCreationAttributes<MaterialRow>> {
  declare id: string
  declare version: number
  declare document: string
}

export class RecipeRow extends Model<InferAttributes<RecipeRow>, InferCreationAttributes<RecipeRow>> {
  declare id: string
  declare materialId: string
  declare document: string
}

export class MachineRow extends Model<InferAttributes<MachineRow>, InferCreationAttributes<MachineRow>> {
  declare id: string
  declare version: number
  declare document: string
}

/** Something that the shop has settled for all jobs, as JSON. */
export class ShopSetting extends Model<InferAttributes<ShopSetting>, InferCreationAttributes<ShopSetting>> {
  declare name: string
  declare document: string
}

/** What the board shows of a job document, by the document's content: made once. */
export class Card extends Model<InferAttributes<Card>, InferCreationAttributes<Card>> {
  declare content: string
  declare summary: string
  declare picture: Buffer
  declare createdAt: CreationOptional<Date>
}

export function defineModels(sequelize: Sequelize): void {
  defineRunModels(sequelize)
  defineArtworkModels(sequelize)
  definePeopleModels(sequelize)
  defineCameraModels(sequelize)
  defineCatalogueChanges(sequelize)
  defineStockModels(sequelize)
  const key = (type: DataTypes.DataType) => ({ type, primaryKey: true })
  const created = { sequelize, updatedAt: false as const }
  const bare = { sequelize, timestamps: false }
  const time = DataTypes.DATE(3)
  Asset.init(
    {
      sha256: key(DataTypes.CHAR(64)),
      bytes: DataTypes.INTEGER,
      chunks: DataTypes.INTEGER,
      widthPx: DataTypes.INTEGER,
      heightPx: DataTypes.INTEGER,
      hasAlpha: DataTypes.BOOLEAN,
      pixelsPerMm: DataTypes.DOUBLE,
      createdAt: time,
    },
    { ...created, tableName: 'assets' },
  )
  AssetChunk.init(
    { sha256: key(DataTypes.CHAR(64)), number: key(DataTypes.INTEGER), data: DataTypes.BLOB('long') },
    { ...bare, tableName: 'asset_chunks' },
  )
  Job.init(
    {
      id: key(DataTypes.STRING(40)),
      name: DataTypes.STRING(200),
      revision: DataTypes.INTEGER,
      document: DataTypes.TEXT('long'),
      historyFrom: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 },
      earlier: { type: DataTypes.TEXT('long'), allowNull: true, defaultValue: null },
      trouble: { type: DataTypes.TEXT, allowNull: true, defaultValue: null },
      brief: DataTypes.TEXT,
      branchOf: DataTypes.STRING(40),
      createdAt: time,
      updatedAt: time,
      deletedAt: time,
    },
    { sequelize, tableName: 'jobs', paranoid: true },
  )
  Revision.init(
    {
      jobId: key(DataTypes.STRING(40)),
      revision: key(DataTypes.INTEGER),
      editId: DataTypes.STRING(40),
      name: DataTypes.STRING(200),
      kind: DataTypes.STRING(8),
      ofEdit: DataTypes.STRING(40),
      patches: DataTypes.TEXT('long'),
      inverse: DataTypes.TEXT('long'),
      createdAt: time,
    },
    { ...created, tableName: 'revisions' },
  )
  MaterialRow.init(
    { id: key(DataTypes.STRING(40)), version: DataTypes.INTEGER, document: DataTypes.TEXT('long') },
    { ...bare, tableName: 'materials' },
  )
  RecipeRow.init(
    { id: key(DataTypes.STRING(40)), materialId: DataTypes.STRING(40), document: DataTypes.TEXT('long') },
    { ...bare, tableName: 'recipes' },
  )
  ShopSetting.init({ name: key(DataTypes.STRING(40)), document: DataTypes.TEXT('long') }, { ...bare, tableName: 'shop_settings' })
  MachineRow.init(
    { id: key(DataTypes.STRING(40)), version: DataTypes.INTEGER, document: DataTypes.TEXT('long') },
    { ...bare, tableName: 'machines' },
  )
  Card.init(
    { content: key(DataTypes.CHAR(64)), summary: DataTypes.TEXT, picture: DataTypes.BLOB('long'), createdAt: time },
    { ...created, tableName: 'cards' },
  )
}
