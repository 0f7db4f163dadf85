import { BURNED_WASM } from '../kernels/burned.wasm.ts'
import { kernelMaker } from '../kernels/kernel.ts'

/** What `kernels/src/burned` does: see there. Places in its memory are bytes. */
interface BurnedKernel {
  freeFrom(): number
  throughBytes(bytes: number, n: number, table: number, out: number): void
  coverRow(dark: number, n: number, share: number, out: number): void
  changes(bytes: number, n: number): number
}

/** The kernel of burned dots; what it holds is overwritten by the next call. */
export const burnedKernel = kernelMaker<BurnedKernel>(BURNED_WASM).kept
