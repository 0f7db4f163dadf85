import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type Sequelize,
} from 'sequelize'

/** Somebody who works here. Who is signed in may look, and may stop any machine. */
export class Person extends Model<InferAttributes<Person>, InferCreationAttributes<Person>> {
  declare id: string
  declare name: string
  /** scrypt of the PIN, with its salt. */
  declare pin: string
  declare composes: boolean
  declare keeps: boolean
  declare createdAt: CreationOptional<Date>
  declare deletedAt: CreationOptional<Date | null>
}

/** Somebody may run a machine: who said so, and until when; null where it has no end. */
export class Certificate extends Model<InferAttributes<Certificate>, InferCreationAttributes<Certificate>> {
  declare personId: string
  declare machineId: string
  declare certifiedBy: string
  declare untilAt: Date | null
  declare createdAt: CreationOptional<Date>
}

/** A page that is signed in. `token` is the SHA-256 of what its cookie holds. */
export class Session extends Model<InferAttributes<Session>, InferCreationAttributes<Session>> {
  declare token: string
  declare personId: string
  declare expiresAt: Date
  declare createdAt: CreationOptional<Date>
}

/** Failed sign-ins of one name, or from one address. */
export class SignInTry extends Model<InferAttributes<SignInTry>, InferCreationAttributes<SignInTry>> {
  declare who: string
  declare failures: number
  declare lastAt: Date
}

export function definePeopleModels(sequelize: Sequelize): void {
  const time = DataTypes.DATE(3)
  const key = (length: number) => ({ type: DataTypes.STRING(length), primaryKey: true })
  const created = { sequelize, updatedAt: false as const }
  Person.init(
    {
      id: key(40),
      name: DataTypes.STRING(60),
      pin: DataTypes.STRING(200),
      composes: DataTypes.BOOLEAN,
      keeps: DataTypes.BOOLEAN,
      createdAt: time,
      deletedAt: time,
    },
    { ...created, paranoid: true, tableName: 'people' },
  )
  Certificate.init(
    { personId: key(40), machineId: key(40), certifiedBy: DataTypes.STRING(60), untilAt: time, createdAt: time },
    { ...created, tableName: 'certificates' },
  )
  Session.init(
    {
      token: { type: DataTypes.CHAR(64), primaryKey: true },
      personId: DataTypes.STRING(40),
      expiresAt: time,
      createdAt: time,
    },
    { ...created, tableName: 'sessions' },
  )
  SignInTry.init(
    { who: key(80), failures: DataTypes.INTEGER, lastAt: time },
    { sequelize, timestamps: false, tableName: 'sign_in_tries' },
  )
}
