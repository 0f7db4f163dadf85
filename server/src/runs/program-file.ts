import { closeSync, existsSync, openSync, readdirSync, readSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { markBefore, type Program, programLines } from '@neotaxis/link'
import type { Prepared } from './prepared.ts'

const PIECE = 1 << 18

function* rawLines(path: string, from: number): Generator<string> {
  const file = openSync(path, 'r')
  try {
    const bytes = Buffer.allocUnsafe(PIECE)
    let rest = ''
    let at = from
    for (let read = readSync(file, bytes, 0, PIECE, at); read > 0; read = readSync(file, bytes, 0, PIECE, at)) {
      at += read
      const lines = (rest + bytes.toString('latin1', 0, read)).split('\n')
      rest = lines.pop() ?? ''
      yield* lines
    }
    yield rest
  } finally {
    closeSync(file)
  }
}

/** A program that stays on disk: any length, a piece at a time in memory, read from the nearest mark. */
export const programInFile = ({ file, lines, marks }: Pick<Prepared, 'file' | 'lines' | 'marks'>): Program => ({
  count: lines,
  marks,
  lines: (from) => {
    const mark = markBefore(marks, from - 1)
    return programLines(rawLines(file, mark?.byte ?? 0), from - 1 - (mark?.lines ?? 0))
  },
})

/** The program is not needed any more. */
export const dropProgram = (file: string): void => rmSync(file, { force: true })

/** Programs of servers that are gone are deleted. @param own the folder of this process */
export function dropLeftPrograms(own: string): void {
  for (const name of readdirSync(tmpdir())) {
    const pid = /^neotaxis-runs-(\d+)$/.exec(name)?.[1]
    if (pid === undefined || join(tmpdir(), name) === own || existsSync(`/proc/${pid}`)) continue
    rmSync(join(tmpdir(), name), { recursive: true, force: true })
  }
}

/** While programs need more than so many bytes, the oldest that no run uses go. */
export function keepWithin(folder: string, budget: number, used: ReadonlySet<string>): void {
  if (!existsSync(folder)) return
  const files = readdirSync(folder)
    .map((name) => join(folder, name))
    .map((file) => ({ file, ...statSync(file, { throwIfNoEntry: false }) }))
    .filter(({ size }) => size !== undefined)
    .sort((a, b) => (a.mtimeMs ?? 0) - (b.mtimeMs ?? 0))
  let total = files.reduce((sum, { size }) => sum + (size ?? 0), 0)
  for (const { file, size } of files) {
    if (total <= budget) return
    if (used.has(file)) continue
    dropProgram(file)
    total -= size ?? 0
  }
}
