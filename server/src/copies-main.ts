// `npm run backup`: keeps a copy of all data as one file, and says where.
import { keepCopy } from './copies.ts'
import { databaseSettings } from './database.ts'

try {
  const file = await keepCopy(databaseSettings(process.env), 'by hand')
  process.send?.({ file })
  process.stdout.write(`${file}\n`)
} catch (cause) {
  process.stderr.write(`${cause instanceof Error ? cause.message : cause}\n`)
  process.exitCode = 1
}
