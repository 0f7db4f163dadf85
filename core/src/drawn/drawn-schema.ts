import Joi from 'joi'
import { byKind } from '../border/by-kind.ts'
import { MOST_ENTRIES } from '../text/series.ts'
import { LONGEST_TEXT } from '../text/text-spec.ts'

const length = Joi.number().min(0.05).max(10_000).required()
const count = (most: number) => Joi.number().integer().min(1).max(most).required()
/** SVG path data: what is not a command or a number is refused. */
const data = Joi.string()
  .pattern(/^[\sMmLlHhVvCcSsQqTtAaZz0-9eE.,+-]+$/)
  .max(1_000_000)
  .required()
const asset = Joi.string()
  .pattern(/^[0-9a-f]{64}$/)
  .required()

const repeat = byKind(
  {
    grid: { columns: count(200), rows: count(200), pitchXMm: length, pitchYMm: length },
    round: { count: count(360), diameterMm: length },
  },
  'a way to repeat',
).optional()

/** What was drawn or written, as a job carries it. */
/** Shares of the artwork's sides: a place may lie a little beside its box. */
const share = Joi.number().min(-10).max(11).required()
const face = Joi.number().min(-100_000).max(100_000).required()

export const drawnSchema = byKind(
  {
    rectangle: { widthMm: length, heightMm: length, radiusMm: Joi.number().min(0).max(10_000).required(), repeat },
    ellipse: { widthMm: length, heightMm: length, repeat },
    polygon: { sides: Joi.number().integer().min(3).max(200).required(), diameterMm: length, repeat },
    star: {
      points: Joi.number().integer().min(2).max(200).required(),
      diameterMm: length,
      innerShare: Joi.number().min(0.05).max(1).required(),
      repeat,
    },
    line: { lengthMm: length, angleDeg: Joi.number().min(-360).max(360).required(), repeat },
    arc: {
      diameterMm: length,
      fromDeg: Joi.number().min(-360).max(360).required(),
      sweepDeg: Joi.number().min(0.1).max(360).required(),
      repeat,
    },
    path: { data, repeat },
    code: { text: Joi.string().min(1).max(1000).required(), sizeMm: length, onDark: Joi.boolean().required(), repeat },
    text: {
      text: Joi.string().allow('').max(LONGEST_TEXT).required(),
      font: byKind(
        {
          strokes: {},
          file: {
            asset,
            name: Joi.string().max(200).required(),
            axes: Joi.object()
              .pattern(/^[\x20-\x7e]{4}$/, Joi.number().min(-100_000).max(100_000))
              .max(32)
              .optional(),
          },
        },
        'a kind of font',
      ).required(),
      capMm: Joi.number().min(0.2).max(2000).required(),
      letterMm: Joi.number().min(-100).max(500).required(),
      lineShare: Joi.number().min(0.2).max(20).required(),
      align: Joi.valid('left', 'middle', 'right').required(),
      along: byKind(
        {
          box: { widthMm: length, heightMm: length },
          circle: { diameterMm: length, at: Joi.valid('top', 'bottom').required() },
          path: {
            data,
            on: Joi.object({
              node: Joi.string()
                .pattern(/^[A-Za-z0-9_-]{1,40}$/)
                .required(),
              x: share,
              y: share,
              midXMm: face,
              midYMm: face,
            }).optional(),
          },
        },
        'a line for text',
      ).optional(),
      series: Joi.object({
        entries: Joi.array().items(Joi.string().allow('').max(400)).min(1).max(MOST_ENTRIES).required(),
        columns: count(200),
        pitchXMm: length,
        pitchYMm: length,
      }).optional(),
      repeat,
    },
  },
  'a kind of drawing',
)
