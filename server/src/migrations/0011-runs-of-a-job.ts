import type { QueryInterface } from 'sequelize'

/** When each job on the board was last run is asked for with every look at the board. */
export async function up(tables: QueryInterface): Promise<void> {
  await tables.addIndex('runs', ['jobId', 'endedAt'])
}
