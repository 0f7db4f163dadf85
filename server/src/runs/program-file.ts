import { closeSync, openSync, readSync } from 'node:fs'
import { type Program, programLines } from '@neotaxis/link'

const PIECE = 1 << 18

function* rawLines(path: string): Generator<string> {
  const file = openSync(path, 'r')
  try {
    const bytes = Buffer.allocUnsafe(PIECE)
    let rest = ''
    for (let read = readSync(file, bytes); read > 0; read = readSync(file, bytes)) {
      const lines = (rest + bytes.toString('latin1', 0, read)).split('\n')
      rest = lines.pop() ?? ''
      yield* lines
    }
    yield rest
  } finally {
    closeSync(file)
  }
}

/** A program that stays on disk: any length, a piece at a time in memory. */
export const programInFile = (path: string): Program => ({ lines: (from) => programLines(rawLines(path), from) })
