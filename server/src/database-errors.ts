/** What an error of the database says, as far as anything depends on it; from this thread or from another. */
interface DatabaseError {
  readonly name?: string
  readonly errno?: number
  readonly original?: { readonly errno?: number; readonly code?: string }
}

const numberOf = (error: DatabaseError | undefined): number | undefined => error?.original?.errno ?? error?.errno

/** No room: the table is full (InnoDB says so of the disk), the disk is full, or a file could not be written for want of room. */
const FULL = [1021, 1114, 1026, 3]

export const isDiskFull = (error: DatabaseError | undefined): boolean => {
  const number = numberOf(error)
  return number !== undefined && FULL.includes(number)
}

/** The database is not there: it will be again. */
export const isDatabaseAway = (error: DatabaseError | undefined): boolean => String(error?.name).startsWith('SequelizeConnection')
