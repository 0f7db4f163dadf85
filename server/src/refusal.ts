/** A request that cannot be done: an HTTP status, a code for programs, a sentence for people. */
export class Refusal extends Error {
  readonly status: number
  readonly code: string
  constructor(status: number, code: string, message: string) {
    super(message)
    this.status = status
    this.code = code
  }
}
