import { DataTypes, type QueryInterface } from 'sequelize'

/** Which server has which machine; who works here, what they may do, and where they are signed in. */
export async function up(tables: QueryInterface): Promise<void> {
  const time = { type: DataTypes.DATE(3), allowNull: false }
  const id = (length: number) => ({ type: DataTypes.STRING(length), primaryKey: true })
  await tables.createTable('machine_leases', {
    machineId: id(40),
    serverId: { type: DataTypes.STRING(40), allowNull: false },
    url: { type: DataTypes.STRING(200), allowNull: false },
    secret: { type: DataTypes.STRING(64), allowNull: false },
    beatAt: time,
  })
  await tables.createTable('people', {
    id: id(40),
    name: { type: DataTypes.STRING(60), allowNull: false },
    pin: { type: DataTypes.STRING(200), allowNull: false },
    composes: { type: DataTypes.BOOLEAN, allowNull: false },
    keeps: { type: DataTypes.BOOLEAN, allowNull: false },
    createdAt: time,
    deletedAt: { type: DataTypes.DATE(3), allowNull: true },
  })
  await tables.createTable('certificates', {
    personId: id(40),
    machineId: id(40),
    certifiedBy: { type: DataTypes.STRING(60), allowNull: false },
    untilAt: { type: DataTypes.DATE(3), allowNull: true },
    createdAt: time,
  })
  await tables.createTable('sessions', {
    token: { type: DataTypes.CHAR(64), primaryKey: true },
    personId: { type: DataTypes.STRING(40), allowNull: false },
    expiresAt: time,
    createdAt: time,
  })
  await tables.createTable('sign_in_tries', {
    who: id(80),
    failures: { type: DataTypes.INTEGER, allowNull: false },
    lastAt: time,
  })
}
