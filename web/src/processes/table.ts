import type { Operation, ProcessName } from '@neotaxis/core'
import { area } from './area/area.tsx'
import { cut } from './cut/cut.tsx'
import { guide } from './guide/guide.tsx'
import { picture } from './picture/picture.tsx'
import type { ProcessPage } from './process-page.ts'
import { program } from './program/program.tsx'
import { relief } from './relief/relief.tsx'
import { score } from './score/score.tsx'

/** Every process as the page shows it: one line each. */
const PAGES: Readonly<Record<ProcessName, ProcessPage>> = { cut, score, area, picture, relief, guide, program }

export const pageOf = ({ process }: Pick<Operation, 'process'>): ProcessPage => PAGES[process]
