/** What an error of the database says, as far as anything depends on it; from this thread or from another. */
interface DatabaseError {
  readonly name?: string
  readonly errno?: number
  readonly code?: string
  readonly original?: { readonly errno?: number; readonly code?: string }
}

const numberOf = (error: DatabaseError | undefined): number | undefined => error?.original?.errno ?? error?.errno

/** No room: the table is full (InnoDB says so of the disk), the disk is full, or a file could not be written for want of room. */
const FULL = [1021, 1114, 1026, 3]

export const isDiskFull = (error: DatabaseError | undefined): boolean => {
  const number = numberOf(error)
  return number !== undefined && FULL.includes(number)
}

const AWAY = ['PROTOCOL_CONNECTION_LOST', 'ECONNRESET', 'ECONNREFUSED', 'EPIPE', 'ETIMEDOUT']
/** Server shutdown in progress; gone away; lost connection. */
const GONE = [1053, 2006, 2013]

/** The database is not there: it will be again. */
export const isDatabaseAway = (error: DatabaseError | undefined): boolean =>
  String(error?.name).startsWith('SequelizeConnection') ||
  AWAY.includes(error?.original?.code ?? error?.code ?? '') ||
  GONE.includes(numberOf(error) ?? 0)
