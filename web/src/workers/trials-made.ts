import {
  type CardKind,
  type CardOn,
  cardAround,
  type FirstTrial,
  firstCard,
  type JobDocument,
  type Machine,
  type Material,
  type Supply,
  stripAround,
  type TrialAxes,
  type TrialCard,
  trialCard,
} from '@neotaxis/core'

/** A card of trials, with the files of what is drawn on it. */
export interface TrialMade {
  readonly job: JobDocument
  readonly files: readonly string[]
}

const made = ({ job, assets }: TrialCard): TrialMade => ({
  job,
  files: [...assets.values()].map((bytes) => new TextDecoder().decode(bytes)),
})

/** What a worker makes of trials. @param supplied gets the pictures of a job */
export const trialsMade = (supplied: (job: JobDocument) => Promise<Supply>) => ({
  /** The first card of trials on a material. */
  firstCardOn(material: Material, machine: Machine, process: FirstTrial): TrialMade {
    const { spec, setting } = firstCard(material, machine, process)
    return made(trialCard(spec, setting))
  },

  /** A strip that repeats the hardest patch of what an operation burns. */
  async stripOfTrials(job: JobDocument, id: string, axes?: TrialAxes, on?: Material): Promise<TrialMade> {
    return made(stripAround(job, id, await supplied(job), axes, on))
  },

  /** A card of trials around an operation. */
  cardOfTrials(job: JobDocument, id: string, kind: CardKind, on: CardOn): TrialMade {
    const { spec, setting } = cardAround(job, id, kind, on)
    return made(trialCard(spec, setting))
  },
})
