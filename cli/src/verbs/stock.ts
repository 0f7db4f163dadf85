import { checkJob, checkStock, isOfKind, ontoStock, outlineSize, packJob, whichFit } from '@neotaxis/core'
import { type Io, lengthOption, readInput, readOptions, tell, UsageError, WorkError, writeOutput } from '../io.ts'
import { loadJob } from '../jobs.ts'

const MM2_IN_CM2 = 100

/** A job and the stock of a shop → which pieces take it, the least waste first; or the job laid on one of them. */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    { 'margin-mm': { type: 'string' }, take: { type: 'string' } },
    { min: 2, max: 2, what: 'a job, and a file with the stock as the server tells it' },
  )
  const marginMm = lengthOption('margin-mm', values['margin-mm']) ?? 0
  if (values.output && !values.take) throw new UsageError('say which piece is taken: --take NAME, or its code.')
  const { job, supply, assets } = loadJob(positionals[0])
  let told: unknown
  try {
    told = JSON.parse(new TextDecoder().decode(readInput(positionals[1])))
  } catch (cause) {
    if (cause instanceof SyntaxError) throw new WorkError(`${positionals[1]} is no JSON.`)
    throw cause
  }
  const listed = checkStock(told)
  const there = listed.filter(({ count }) => count > 0)
  const codeOf = new Map(listed.map(({ piece, code }) => [piece.id, code]))
  const fits = whichFit(
    job,
    supply,
    there.map(({ piece }) => piece),
    marginMm,
  )
  if (values.take === undefined) {
    const tried = there.filter(({ piece }) => isOfKind(job, piece)).length
    const rows = fits.map(({ piece, fit, wasteMm2 }) => ({
      name: piece.name,
      code: codeOf.get(piece.id) ?? '',
      ...outlineSize(piece.outline),
      angleDeg: fit.angleDeg,
      wasteMm2,
    }))
    if (values.json) tell(io, true, { fits: rows, tried, marginMm }, [])
    for (const { name, code, widthMm, heightMm, angleDeg, wasteMm2 } of values.json ? [] : rows) {
      const size = `${widthMm.toFixed(0)} × ${heightMm.toFixed(0)} mm`
      const turned = angleDeg === 0 ? 'as it lies' : `turned ${angleDeg.toFixed(1)}°`
      const over = `${(wasteMm2 / MM2_IN_CM2).toFixed(0)} cm² left over`
      io.out(`${code.padEnd(8)} ${name.padEnd(28)} ${size.padStart(15)}  ${turned}, ${over}\n`)
    }
    if (!values.json && rows.length === 0)
      io.out(
        tried > 0
          ? `None of ${tried} pieces of this material and thickness takes the job.\n`
          : 'There is no piece of this material and thickness.\n',
      )
    return rows.length > 0 ? 0 : 1
  }
  const wanted = fits.find(({ piece }) => piece.name === values.take || codeOf.get(piece.id) === values.take)
  if (!wanted) {
    const isThere = there.some(({ piece, code }) => piece.name === values.take || code === values.take)
    throw new WorkError(
      isThere
        ? `“${values.take}” does not take this job: it is of another material or thickness, or too small.`
        : `There is no piece “${values.take}” in this stock.`,
    )
  }
  if (!values.output && !values.json) throw new UsageError('say where the job goes with -o OUT.')
  const laid = checkJob(ontoStock(job, supply, wanted))
  if (values.output)
    writeOutput(
      values.output,
      packJob(laid, (asset) => assets.get(asset)!),
    )
  tell(io, values.json, { taken: wanted.piece.name, angleDeg: wanted.fit.angleDeg, wasteMm2: wanted.wasteMm2 }, [
    `on “${wanted.piece.name}”${wanted.fit.angleDeg === 0 ? '' : `, turned ${wanted.fit.angleDeg.toFixed(1)}°`}`,
  ])
  return 0
}
