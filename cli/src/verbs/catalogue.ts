import { bedSize } from '@neotaxis/core'
import { readCatalogue } from '../catalogue.ts'
import { type Io, readOptions, tell, UsageError } from '../io.ts'

/** `catalogue list`: materials and machines by id. */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(args, { catalogue: { type: 'string' } }, { min: 1, max: 1, what: 'the word list' })
  if (positionals[0] !== 'list') throw new UsageError('it knows one word: list.')
  const { materials, machines } = readCatalogue(values.catalogue)
  const brief = {
    materials: materials.map(({ id, name, thicknessMm }) => ({ id, name, thicknessMm })),
    machines: machines.map((machine) => ({ id: machine.id, name: machine.name, bed: bedSize(machine), watts: machine.watts })),
  }
  if (values.json) tell(io, true, brief, [])
  else
    io.out(
      `${[...brief.materials.map((m) => `${m.id.padEnd(20)} ${m.name}, ${m.thicknessMm} mm`), ...brief.machines.map((m) => `${m.id.padEnd(20)} ${m.name}, bed ${m.bed.widthMm} × ${m.bed.heightMm} mm`)].join('\n')}\n`,
    )
  return 0
}
