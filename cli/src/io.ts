import { existsSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { type ParseArgsConfig, parseArgs } from 'node:util'
import { LengthError, parseLength } from '@neotaxis/core/units/length'

/** Where results and messages go. */
export interface Io {
  readonly out: (text: string) => void
  readonly err: (text: string) => void
}

/** The command was given wrongly: exit 2. */
export class UsageError extends Error {}

/** What a verb takes was asked for. */
export class HelpAsked extends Error {
  readonly options: readonly (readonly [string, Options[string]])[]
  readonly what: string
  constructor(options: Options, what: string) {
    super('help')
    this.options = Object.entries(options)
    this.what = what
  }
}

/** The work could not be done; `message` says why: exit 1. */
export class WorkError extends Error {}

/** One sentence for whatever went wrong. */
export function failed(cause: unknown): string {
  if (!(cause instanceof Error)) return 'It could not be done.'
  return cause.message.split('\n')[0]
}

export type Options = NonNullable<ParseArgsConfig['options']>

/** Reads options strictly; `-o OUT` and `--json` belong to every verb. */
export function readOptions<T extends Options>(
  args: readonly string[],
  options: T,
  positionals: { readonly min: number; readonly max: number; readonly what: string },
) {
  const all = {
    ...options,
    output: { type: 'string', short: 'o' },
    json: { type: 'boolean', default: false },
  } as const satisfies Options
  if (args.includes('--help') || args.includes('-h')) throw new HelpAsked(all, positionals.what)
  let read: ReturnType<typeof parseArgs<{ options: typeof all; allowPositionals: true; strict: true; args: string[] }>>
  try {
    read = parseArgs({ args: joinNegatives(args), options: all, allowPositionals: true, strict: true })
  } catch (cause) {
    throw new UsageError(misread(failed(cause)))
  }
  const count = read.positionals.length
  if (count < positionals.min || count > positionals.max) throw new UsageError(`it wants ${positionals.what}.`)
  return read
}

/** What is wrong with the options, as one sentence of this tool. */
function misread(told: string): string {
  const name = /'(-[^' ]*)/.exec(told)?.[1]
  if (name === undefined) return told
  if (/^Unknown/.test(told)) return `there is no option ${name}: --help lists them.`
  if (/argument missing|ambiguous/.test(told)) return `${name} wants a value.`
  return /does not take/.test(told) ? `${name} takes no value.` : told
}

/** `--distance-mm -2` means the number −2, not an option. */
function joinNegatives(args: readonly string[]): string[] {
  const out: string[] = []
  for (const arg of args) {
    const last = out.at(-1)
    if (/^-[\d.]/.test(arg) && last?.startsWith('--') && !last.includes('=')) out[out.length - 1] = `${last}=${arg}`
    else out.push(arg)
  }
  return out
}

/** A length option in mm. */
export function lengthOption(name: string, text: string | undefined): number | undefined {
  if (text === undefined) return undefined
  try {
    return parseLength(text, 'mm')
  } catch (cause) {
    throw new UsageError(`--${name}: ${cause instanceof LengthError ? cause.message : 'not a length.'}`)
  }
}

/** A number option within a range. */
export function numberOption(name: string, text: string | undefined, min: number, max: number): number | undefined {
  if (text === undefined) return undefined
  const value = Number(text)
  if (text.trim() === '' || !Number.isFinite(value) || value < min || value > max)
    throw new UsageError(`--${name} goes from ${min} to ${max}, not ${text}.`)
  return value
}

/** A whole number within a range. */
export function countOption(name: string, text: string | undefined, min: number, max: number): number | undefined {
  const value = numberOption(name, text, min, max)
  if (value !== undefined && !Number.isInteger(value)) throw new UsageError(`--${name} is a whole number, not ${text}.`)
  return value
}

/** Several numbers with commas between them. */
export function numbersOption(name: string, text: string | undefined, count: number): number[] | undefined {
  if (text === undefined) return undefined
  const values = text.split(',').map(Number)
  if (values.length !== count || !values.every(Number.isFinite))
    throw new UsageError(`--${name} wants ${count} numbers with commas between them, not ${text}.`)
  return values
}

/** `any`, or angles with commas between them, degrees clockwise. */
export function anglesOption(name: string, text: string | undefined): 'any' | number[] | undefined {
  if (text === undefined || text === 'any') return text
  const values = text.split(',').map((each) => (each.trim() === '' ? Number.NaN : Number(each)))
  if (!values.every(Number.isFinite))
    throw new UsageError(`--${name} wants “any” or angles with commas between them, not ${text}.`)
  return values
}

/** One of some words. */
export function wordOption<W extends string>(name: string, text: string | undefined, words: readonly W[]): W | undefined {
  if (text === undefined) return undefined
  if (!words.includes(text as W)) throw new UsageError(`--${name} is one of ${words.join(', ')}, not ${text}.`)
  return text as W
}

/** The bytes of a file, or of standard input for `-`. */
export function readInput(path: string): Uint8Array {
  try {
    return readFileSync(path === '-' ? 0 : path)
  } catch {
    throw new WorkError(`${path} cannot be read.`)
  }
}

/** Writes a file whole or not at all. */
export function writeOutput(path: string, bytes: Uint8Array | string | readonly Uint8Array[]): void {
  const folder = dirname(path)
  if (!existsSync(folder)) throw new WorkError(`The folder ${folder} does not exist.`)
  const part = join(folder, `.${process.pid}.${Date.now()}.part`)
  try {
    if (Array.isArray(bytes)) writeFileSync(part, Buffer.concat(bytes as Uint8Array[]))
    else writeFileSync(part, bytes as Uint8Array | string)
    renameSync(part, path)
  } catch {
    rmSync(part, { force: true })
    throw new WorkError(`${path} cannot be written.`)
  }
}

/** Tells the result: JSON alone on standard output, or lines for people on standard error. */
export function tell(io: Io, json: boolean | undefined, value: object, lines: readonly string[]): void {
  if (json) io.out(`${JSON.stringify(value)}\n`)
  else if (lines.length > 0) io.err(`${lines.join('\n')}\n`)
}
