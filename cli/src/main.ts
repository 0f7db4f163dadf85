import { failed, HelpAsked, type Io, UsageError, WorkError } from './io.ts'
import { OPTION_WORDS } from './option-words.ts'

type Verb = (args: readonly string[], io: Io) => Promise<number>

/** Each verb is loaded only when it is asked for. */
const VERBS: Record<string, { does: string; load: () => Promise<{ run: Verb }> }> = {
  trace: { does: 'picture → outlines (SVG)', load: () => import('./verbs/trace.ts') },
  picture: { does: 'picture → prepared picture (PNG)', load: () => import('./verbs/picture.ts') },
  offset: { does: 'outlines → offset outlines (SVG)', load: () => import('./verbs/offset.ts') },
  combine: { does: 'two drawings → union, difference, intersection (SVG)', load: () => import('./verbs/combine.ts') },
  fit: { does: 'shape, and what it must lie in → largest scale, angle, place (SVG)', load: () => import('./verbs/fit.ts') },
  stock: { does: 'job and stock → which pieces take it, or the job on one', load: () => import('./verbs/stock.ts') },
  nest: { does: 'shapes and a sheet → pieces laid out on it (SVG)', load: () => import('./verbs/nest.ts') },
  draw: { does: 'shape or text, by numbers → drawing (SVG)', load: () => import('./verbs/draw.ts') },
  propose: { does: 'picture → job, by a proposal', load: () => import('./verbs/propose.ts') },
  plan: { does: 'job → G-code and times', load: () => import('./verbs/plan.ts') },
  apply: { does: 'gives artwork of a job a process (job)', load: () => import('./verbs/apply.ts') },
  check: { does: 'job → findings', load: () => import('./verbs/check.ts') },
  forecast: { does: 'job → picture of the result (PNG)', load: () => import('./verbs/forecast.ts') },
  camera: {
    does: 'the bed camera: its board, calibration, the bed in its photos; or a simulated one',
    load: () => import('./verbs/camera.ts'),
  },
  rotary: {
    does: 'what turns, and what holds it → steps, turns, repeats, a cone laid flat',
    load: () => import('./verbs/rotary.ts'),
  },
  face: { does: 'job and how its face is → job on a curved or uneven face', load: () => import('./verbs/face.ts') },
  testcard: { does: 'process and ranges → card of trials (job)', load: () => import('./verbs/testcard.ts') },
  curve: { does: 'card of trials and what was measured on it → curve, its figures', load: () => import('./verbs/curve.ts') },
  machine: { does: 'a simulated machine, until it is ended', load: () => import('./verbs/machine.ts') },
  convert: { does: 'mesh → height map (PNG)', load: () => import('./verbs/convert.ts') },
  run: { does: 'job or G-code → a machine', load: () => import('./verbs/run.ts') },
  catalogue: {
    does: 'materials, machines, recipes: list, table, check, borrow, take in',
    load: () => import('./verbs/catalogue.ts'),
  },
}

const usage = (): string =>
  `usage: neotaxis VERB …\n${Object.entries(VERBS)
    .map(([verb, { does }]) => `  ${verb.padEnd(10)} ${does}`)
    .join('\n')}\nneotaxis VERB --help tells what it takes.\n`

/** What a verb takes, in words. @param said the verb, and the word behind it where it has words of its own */
function verbUsage(said: readonly string[], { options, what }: HelpAsked): string {
  const lines = options.map(([name, { type, short }]): [string, string] => [
    `${short ? `-${short}, ` : ''}--${name}${type === 'string' ? ' …' : ''}`,
    said.map((word) => OPTION_WORDS[`${word} ${name}`]).find(Boolean) ?? OPTION_WORDS[name],
  ])
  const wide = Math.max(...lines.map(([name]) => name.length))
  const does = VERBS[said[0]].does
  return `usage: neotaxis ${said.join(' ')} …\n${does}; it takes ${what}\n${lines.map(([name, words]) => `  ${name.padEnd(wide)}  ${words}`).join('\n')}\n`
}

/** Runs one verb. @returns the exit code: 0 done, 1 could not be done, 2 wrong usage, 3 done, but findings stop the job */
export async function main(
  args: readonly string[],
  io: Io = { out: (text) => process.stdout.write(text), err: (text) => process.stderr.write(text) },
): Promise<number> {
  const [name, ...rest] = args
  const verb = name === undefined ? undefined : VERBS[name]
  if (!verb) {
    io.err(name === undefined || name === 'help' || name === '--help' ? usage() : `There is no verb “${name}”.\n${usage()}`)
    return name === 'help' || name === '--help' ? 0 : 2
  }
  try {
    return await (await verb.load()).run(rest, io)
  } catch (cause) {
    if (cause instanceof HelpAsked) {
      io.out(verbUsage([name, ...rest.slice(0, 1).filter((word) => /^[a-z][a-z-]*$/.test(word))], cause))
      return 0
    }
    if (cause instanceof UsageError) {
      io.err(`neotaxis ${name}: ${cause.message}\n`)
      return 2
    }
    io.err(`neotaxis ${name}: ${cause instanceof WorkError ? cause.message : failed(cause)}\n`)
    return 1
  }
}
