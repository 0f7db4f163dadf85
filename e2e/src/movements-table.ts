// Prints what each whole job took, after all tests.
import type { Reporter, TestCase, TestResult } from '@playwright/test/reporter'
import { WHOLE_JOBS, type WholeJob } from './whole-jobs.ts'

interface Counted {
  readonly job: WholeJob
  readonly toStart: number
  readonly after: number
  /** Whether it came to its start. */
  readonly burned: boolean
}

export default class MovementsTable implements Reporter {
  private readonly counted = new Map<WholeJob, Counted>()

  onTestEnd(_test: TestCase, { annotations, status }: TestResult): void {
    if (status !== 'passed') return
    for (const { type, description = '' } of annotations) {
      if (type !== 'whole job') continue
      const counted = JSON.parse(description) as Counted
      this.counted.set(counted.job, counted)
    }
  }

  onEnd(): void {
    if (this.counted.size === 0) return
    const names = (Object.keys(WHOLE_JOBS) as WholeJob[]).filter((job) => this.counted.has(job))
    const rows = names.map((job) => {
      const { toStart, after, burned } = this.counted.get(job)!
      const { most } = WHOLE_JOBS[job]
      return `  ${job.padEnd(12)} ${String(toStart).padStart(3)} + ${String(after).padEnd(3)} wanted ${String(most).padStart(2)}${toStart > most ? '   more than wanted' : ''}${burned ? '' : '   not started'}`
    })
    process.stdout.write(`\n  Movements of the hand to the start, and what safety asks after and around it\n${rows.join('\n')}\n`)
  }

  printsToStdio(): boolean {
    return false
  }
}
