import {
  bringUpRecipe,
  checkJob,
  type JobDocument,
  JobError,
  jobForRun,
  type Outcome,
  type Recipe,
  type RunEvidence,
  type RunScope,
  tried,
  withEvidence,
} from '@neotaxis/core'
import { RecipeRow } from '../models/index.ts'
import { Run, RunEvent } from '../models/runs.ts'
import { SHIFTED } from './run-log.ts'

interface Look {
  readonly answer?: Outcome
  readonly depthMm?: number | null
  readonly tone?: number | null
  readonly warpMm?: number | null
  readonly note?: string
}

/** What was seen of one operation, without what was left empty. */
function outcomeOf({ answer, depthMm, tone, warpMm, note }: Look & { readonly answer: Outcome }) {
  const measured = { depthMm, tone, warpMm, note: note || undefined }
  return { answer, ...Object.fromEntries(Object.entries(measured).filter(([, value]) => value != null)) }
}

/**
 * What was said of a run becomes evidence of the recipes that it followed, with the settings that were really used. Told again,
 * it takes the place of what was told before. In a thread: the document may be large.
 */
export async function noteEvidence(runId: string): Promise<void> {
  const run = await Run.findByPk(runId)
  if (!run) return
  const looks = JSON.parse(run.looks) as Readonly<Record<string, Look>>
  const job = readRun(run)
  if (!job) return
  const shifts = await RunEvent.findAll({ where: { runId, phase: SHIFTED }, order: ['number'] })
  const facts = {
    kind: 'run' as const,
    run: run.id,
    ...(run.parentId ? { after: run.parentId } : {}),
    ...(shifts.length > 0
      ? {
          shifted: shifts
            .map(({ text }) => text)
            .join(', then ')
            .slice(0, 200),
        }
      : {}),
    date: run.startedAt.toISOString().slice(0, 10),
  }
  for (const [operation, look] of Object.entries(looks)) {
    const { answer } = look
    if (answer === undefined) continue
    await addTo(job, operation, { ...facts, operation, ...outcomeOf({ ...look, answer }) })
  }
}

/** The job as it was run; nothing where its document is none that can be read: what was said of it is kept all the same. */
function readRun({ document, scope }: Run): JobDocument | undefined {
  try {
    return jobForRun(checkJob(JSON.parse(document)), JSON.parse(scope) as RunScope)
  } catch (cause) {
    if (cause instanceof JobError || cause instanceof SyntaxError) return undefined
    throw cause
  }
}

async function addTo(job: JobDocument, operation: string, facts: Omit<RunEvidence, 'set'>): Promise<void> {
  const settings = job.operations[operation]
  if (settings?.recipe === undefined) return
  // Two that answer at once take turns: neither loses what the other told.
  await RecipeRow.sequelize!.transaction(async (transaction) => {
    const row = await RecipeRow.findByPk(settings.recipe, { transaction, lock: transaction.LOCK.UPDATE })
    if (!row) return
    const recipe = bringUpRecipe(JSON.parse(row.document)) as Recipe
    if (recipe.machine !== job.machine.id) return
    const evidence = withEvidence(recipe.evidence, [{ ...facts, set: tried(settings) }])
    await row.update({ document: JSON.stringify({ ...recipe, evidence }) }, { transaction })
  })
}
