import { checkJob, JobError } from '@neotaxis/core'
import { DataTypes, type QueryInterface, QueryTypes } from 'sequelize'
import { jobColumns } from '../jobs/job-columns.ts'

interface Row {
  readonly id: string
  readonly document: string
  readonly revision: number
}

/** Jobs are brought up to version 5 of the document, each for itself; one that cannot be stays as it was, and says why. */
export async function up(tables: QueryInterface): Promise<void> {
  await tables.addColumn('jobs', 'historyFrom', { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 })
  await tables.addColumn('jobs', 'earlier', { type: DataTypes.TEXT('long'), allowNull: true })
  await tables.addColumn('jobs', 'trouble', { type: DataTypes.TEXT, allowNull: true })
  const { sequelize } = tables
  const ids = await sequelize.query<{ id: string }>('SELECT id FROM jobs', { type: QueryTypes.SELECT })
  for (const { id } of ids) {
    const [row] = await sequelize.query<Row>('SELECT id, document, revision FROM jobs WHERE id = :id', {
      replacements: { id },
      type: QueryTypes.SELECT,
    })
    const update = (columns: string, replacements: Record<string, unknown>): Promise<unknown> =>
      sequelize.query(`UPDATE jobs SET ${columns} WHERE id = :id`, { replacements: { ...replacements, id } })
    try {
      const { name, document, brief } = jobColumns(checkJob(JSON.parse(row.document)))
      // One revision on: whoever still holds the old document is behind, and is told so.
      await update(
        'earlier = document, document = :document, name = :name, brief = :brief, historyFrom = :from, revision = :from',
        {
          document,
          name,
          brief,
          from: row.revision + 1,
        },
      )
    } catch (cause) {
      const why = cause instanceof JobError ? cause.message : 'Its document cannot be read.'
      await update('trouble = :why', { why })
    }
  }
}
