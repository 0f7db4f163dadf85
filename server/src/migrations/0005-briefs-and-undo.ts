import { DataTypes, type QueryInterface, QueryTypes } from 'sequelize'

const AT_ONCE = 50

/** Lists read columns, not documents; an undo names what it takes back; an edit is found in any branch. */
export async function up(tables: QueryInterface): Promise<void> {
  await tables.addColumn('jobs', 'brief', { type: DataTypes.TEXT, allowNull: true })
  await tables.addColumn('runs', 'brief', { type: DataTypes.TEXT, allowNull: true })
  await tables.addColumn('revisions', 'ofEdit', { type: DataTypes.STRING(40), allowNull: true })
  await tables.addIndex('revisions', ['editId'])
  await fill(tables, 'jobs')
  await fill(tables, 'runs')
}

async function fill(tables: QueryInterface, table: 'jobs' | 'runs'): Promise<void> {
  const { sequelize } = tables
  for (;;) {
    const rows = await sequelize.query<{ id: string; document: string }>(
      `SELECT id, document FROM ${table} WHERE brief IS NULL LIMIT ${AT_ONCE}`,
      { type: QueryTypes.SELECT },
    )
    if (rows.length === 0) return
    for (const { id, document } of rows) {
      const { workpiece, material, machine } = JSON.parse(document)
      const brief = JSON.stringify({ workpiece, material: material?.name ?? '', machine: machine?.name ?? '' })
      await sequelize.query(`UPDATE ${table} SET brief = :brief WHERE id = :id`, { replacements: { brief, id } })
    }
  }
}
