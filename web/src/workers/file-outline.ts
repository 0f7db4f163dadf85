import type { Ring } from '@neotaxis/core'
import { bringIn } from '../api/orders.ts'
import { fileRings } from './engine.ts'

/** The polygons of a drawing file as the edge of a workpiece, mm: it is brought in as any drawing is, so that it is read as any is. */
export const fileOutline = async (file: Blob): Promise<readonly Ring[]> => fileRings((await bringIn(file)).asset)
