/** The little of WebAssembly that is used here; the core's own library types know neither page nor Node. */
interface Memory {
  readonly buffer: ArrayBuffer
  grow(pages: number): number
}
interface WebAssemblyHost {
  readonly Module: new (bytes: Uint8Array) => object
  readonly Instance: new (module: object, imports: object) => { readonly exports: object }
  readonly Memory: new (size: { initial: number }) => Memory
}
const host = globalThis as unknown as { readonly WebAssembly: WebAssemblyHost; atob(text: string): string }

const PAGE = 65_536

/** A compiled kernel with a memory of its own. */
export interface Kernel<E> {
  readonly run: E
  /** The memory as bytes, large enough for `bytes`. Views from before may be gone: ask again after every call. */
  readonly room: (bytes: number) => Uint8Array
}

/** An instance with more memory than this is not kept: the next picture may be small. */
const KEPT_BYTES = 200_000_000

/** Ways to instances of one kernel. */
export interface KernelMaker<E> {
  /** A new one, with a state of its own. */
  readonly fresh: () => Kernel<E>
  /** One that is given out again and again, with whatever its memory held: worked to its end before another asks. */
  readonly kept: () => Kernel<E>
}

/** @param base64 the compiled kernel; it is made ready when the first instance is asked for */
export function kernelMaker<E>(base64: string): KernelMaker<E> {
  let module: object | undefined
  let kept: Kernel<E> | undefined
  const fresh = (): Kernel<E> => {
    const { Module, Instance, Memory } = host.WebAssembly
    module ??= new Module(Uint8Array.from(host.atob(base64), (c) => c.charCodeAt(0)))
    const memory = new Memory({ initial: 2 })
    const { exports } = new Instance(module, { env: { memory, abort: () => {} } })
    return {
      run: exports as E,
      room: (bytes) => {
        const missing = Math.ceil((bytes - memory.buffer.byteLength) / PAGE)
        if (missing > 0) memory.grow(missing)
        return new Uint8Array(memory.buffer)
      },
    }
  }
  return {
    fresh,
    kept: () => {
      if (!kept || kept.room(0).length > KEPT_BYTES) kept = fresh()
      return kept
    },
  }
}

/** Shares out a kernel's memory from `from` on. */
export class Arena {
  private end: number

  constructor(from: number) {
    this.end = (from + 15) & ~15
  }

  /** A place for `bytes`, a multiple of 16. */
  take(bytes: number): number {
    const at = this.end
    this.end = (at + bytes + 15) & ~15
    return at
  }

  /** How much memory all of it needs. */
  get bytes(): number {
    return this.end + 16
  }
}
