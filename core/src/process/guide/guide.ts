import Joi from 'joi'
import { EMPTY_BOUNDS } from '../../geometry/bounds.ts'
import type { Machine } from '../../machine/machine.ts'
import type { Material } from '../../material/material.ts'
import type { Burning, Process } from '../process.ts'
import { followed } from '../recipe.ts'
import { score } from '../score/score.ts'
import type { ScoreOperation } from '../score/settings.ts'
import type { GuideOperation } from './settings.ts'

export type { GuideOperation } from './settings.ts'

/** Share of a score's dose that a drawn guide has. */
const FAINT = 0.4

const scored = (context: Burning<GuideOperation>): Burning<ScoreOperation> => {
  const { drawn: _, ...rest } = context.operation
  return { ...context, operation: { ...rest, process: 'score' } }
}

function fromRecipe(of: readonly string[], material: Material, machine: Machine): GuideOperation {
  const { recipe: _, ...settings } = score.fromRecipe(of, material, machine)
  return { ...settings, process: 'guide', power: Math.round(settings.power * FAINT * 1000) / 1000, drawn: false }
}

/** Shows where something goes. Nothing is burned, unless a faint line is asked for. */
export const guide: Process<GuideOperation> = {
  ...score,
  name: 'guide',
  inProgram: 'guide',
  subject: 'The guide',
  form: 'lines',
  turn: 0,
  follows: undefined,
  nothingLeft: 'There is no line left to guide by: change the threshold or the distance.',
  silent: ({ drawn }) => !drawn,
  schema: { drawn: Joi.boolean().required() },
  fromRecipe,
  onMaterial: (operation, material, machine) => followed(operation, fromRecipe(operation.of, material, machine)),
  departs: () => [],
  strokesTogether: undefined,
  cutting: undefined,
  dots: undefined,
  strokes: (context) => (context.operation.drawn ? score.strokes(scored(context)) : []),
  dose: ({ drawn, ...rest }, machine) => (drawn ? score.dose({ ...rest, process: 'score' }, machine) : {}),
  extent: (context) => (context.operation.drawn ? score.extent(scored(context)) : EMPTY_BOUNDS),
  border: (context) => score.border(scored(context)),
  layers: (context) => (context.operation.drawn ? score.layers(scored(context)) : []),
  layersUntil: (contexts, stretch) => (contexts[0].operation.drawn ? score.layersUntil(contexts.map(scored), stretch) : []),
  framed: (context) => (context.operation.drawn ? score.framed(scored(context)) : []),
}
