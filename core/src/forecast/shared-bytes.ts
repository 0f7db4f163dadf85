/**
 * Bytes that are all 0, in memory that workers look at together where the platform allows it: what is sent from one to
 * another is not copied then. Only the one who asked for them writes them.
 */
export const sharedBytes = (length: number): Uint8Array =>
  typeof SharedArrayBuffer === 'undefined' ? new Uint8Array(length) : new Uint8Array(new SharedArrayBuffer(length))
