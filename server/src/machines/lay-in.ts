import type { Machine, Workpiece } from '@neotaxis/core'
import { atPanel } from './panel-client.ts'

/** What lies in a machine, and where: mm from the bed's rear left corner. */
export interface Laid {
  readonly material: string
  readonly workpiece: Workpiece
  readonly onBed: { readonly xMm: number; readonly yMm: number }
  readonly zero: Machine['zero']
  readonly bedHeightMm: number
}

/** The hand that lays a fresh workpiece into a simulated machine. */
export async function layIn(panel: number, { material, workpiece, onBed, zero, bedHeightMm }: Laid): Promise<void> {
  const y0 = zero === 'front-left' ? bedHeightMm - onBed.yMm - workpiece.heightMm : onBed.yMm
  const laid = {
    material: material.replace(/-\d+$/, ''),
    thickness: workpiece.thicknessMm,
    x0: onBed.xMm,
    y0,
    x1: onBed.xMm + workpiece.widthMm,
    y1: y0 + workpiece.heightMm,
  }
  // A material that the stand-in does not have stays outside: it burns air then.
  await atPanel(panel, { do: 'lay', laid }).catch(() => atPanel(panel, { do: 'lift' }))
}
