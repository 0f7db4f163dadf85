import type { QueryInterface } from 'sequelize'
import * as first from './0001-first.ts'
import * as runs from './0002-runs.ts'
import * as settings from './0003-shop-settings.ts'
import * as fontsAndLibrary from './0004-fonts-and-library.ts'
import * as briefsAndUndo from './0005-briefs-and-undo.ts'
import * as leasesAndPeople from './0006-leases-and-people.ts'
import * as version5 from './0007-jobs-of-version-5.ts'
import * as stock from './0008-stock.ts'
import * as cameras from './0009-cameras.ts'
import * as catalogueChanges from './0010-catalogue-changes.ts'
import * as runsOfJob from './0011-runs-of-a-job.ts'

export interface Migration {
  readonly name: string
  readonly up: (tables: QueryInterface) => Promise<void>
}

/** In the order in which they run. A migration that has landed is never changed. */
export const MIGRATIONS: readonly Migration[] = [
  { name: '0001-first', up: first.up },
  { name: '0002-runs', up: runs.up },
  { name: '0003-shop-settings', up: settings.up },
  { name: '0004-fonts-and-library', up: fontsAndLibrary.up },
  { name: '0005-briefs-and-undo', up: briefsAndUndo.up },
  { name: '0006-leases-and-people', up: leasesAndPeople.up },
  { name: '0007-jobs-of-version-5', up: version5.up },
  { name: '0008-stock', up: stock.up },
  { name: '0009-cameras', up: cameras.up },
  { name: '0010-catalogue-changes', up: catalogueChanges.up },
  { name: '0011-runs-of-a-job', up: runsOfJob.up },
]
