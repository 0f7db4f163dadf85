/** Something that does work and may die of it, as a worker may: what it is, when it died, and the way to end it. */
export interface Mortal<T> {
  readonly at: T
  /** Settles when it is dead; never before. */
  readonly died: Promise<void>
  end(): void
}

/** The same work is given to so many of them, one after the other; then it is the work that kills them. */
const LIVES = 3

const DEAD = Symbol('dead')

/**
 * Has one of a kind at work, made when it is first needed. When it dies another takes its place, and what it was asked for is asked
 * again: whoever waits sees only that it takes longer.
 */
export class Lasting<T> {
  private readonly make: () => Mortal<T>
  private readonly onDeath: () => void
  private life: Mortal<T> | undefined

  /** @param onDeath told each time one has died, before another is made */
  constructor(make: () => Mortal<T>, onDeath: () => void) {
    this.make = make
    this.onDeath = onDeath
  }

  private alive(): Mortal<T> {
    if (this.life) return this.life
    const life = this.make()
    this.life = life
    void life.died.then(() => {
      if (this.life !== life) return
      this.life = undefined
      life.end()
      this.onDeath()
    })
    return life
  }

  /** The one that is at work now. */
  get now(): T {
    return this.alive().at
  }

  /** Asks for something. @throws what the work throws; an Error with a sentence where it killed all that tried */
  async ask<R>(work: (at: T) => Promise<R>): Promise<R> {
    for (let lives = LIVES; lives > 0; lives--) {
      const { at, died } = this.alive()
      const answer = await Promise.race([work(at), died.then((): typeof DEAD => DEAD)])
      if (answer !== DEAD) return answer as R
    }
    throw new Error('This could not be worked out: computing stopped each time. Make the picture smaller, or reload the page.')
  }
}
