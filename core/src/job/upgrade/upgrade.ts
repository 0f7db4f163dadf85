import { JOB_VERSION } from '../document/document.ts'
import type { Stored } from './stored.ts'
import { to2 } from './to-2.ts'
import { to3 } from './to-3.ts'
import { to4 } from './to-4.ts'
import { to5 } from './to-5.ts'

/** What makes each version of the one before. */
const STEPS: readonly ((job: Stored) => Stored)[] = [to2, to3, to4, to5]

/** A job document of an older version as it is now. @param value not checked yet: the schema comes after */
export function upgraded(value: Stored): Stored {
  const { version } = value
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1 || version >= JOB_VERSION) return value
  return STEPS.slice(version - 1).reduce((job, step) => step(job), value)
}
