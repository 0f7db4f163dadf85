/** Does one work at a time; of those that are wanted meanwhile only the newest is done. */
export class LatestOnly<T> {
  private readonly work: (what: T) => Promise<void>
  private next: { readonly what: T } | undefined
  private running = false

  /** @param work never rejects */
  constructor(work: (what: T) => Promise<void>) {
    this.work = work
  }

  /** Whether something newer waits. */
  get waits(): boolean {
    return this.next !== undefined
  }

  want(what: T): void {
    this.next = { what }
    if (!this.running) void this.run()
  }

  private async run(): Promise<void> {
    this.running = true
    for (let at = this.next; at; at = this.next) {
      this.next = undefined
      await this.work(at.what)
    }
    this.running = false
  }
}
