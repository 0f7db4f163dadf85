// For tests: a program as it is written, driven by the simulated machine on a bed of its own.
import { type JobDocument, type Supply, writeProgram } from '@neotaxis/core'
import { Bed, Machine, TRUTHS } from '@neotaxis/stand-ins'

/** The side of what is looked at of a bed, mm. */
export const CELL = 0.02

/** The program of a job, and what was told of it. */
export function programOf(job: JobDocument, supply: Supply) {
  let text = ''
  const report = writeProgram(job, supply, (bytes) => {
    text += new TextDecoder().decode(bytes)
  })
  return { text, report }
}

interface Driven {
  readonly machine: Machine
  readonly seconds: number
}

/** A program driven to its end on a bed that keeps what is burned. */
export function driven(text: string, thicknessMm = 0): Driven & { readonly bed: Bed } {
  const bed = new Bed(600, 400, CELL, 0.12)
  return { bed, ...drivenOn(bed, text, thicknessMm) }
}

/**
 * Drives a program to its end; where it waits, it goes on.
 * @param bed none: nothing is kept of what it burns @param thicknessMm of what lies there, with the lens in focus on it
 */
export function drivenOn(bed: Bed | undefined, text: string, thicknessMm: number): Driven {
  const machine = new Machine(TRUTHS['bench-60'], bed)
  machine.surface = thicknessMm
  if (thicknessMm > 0) machine.jog(0, 0, thicknessMm, 10)
  while (machine.finishMove());
  const before = machine.counts.seconds
  for (const line of text.split('\n')) {
    while (!machine.hasRoom) {
      if (machine.state === 'pause') machine.resume()
      else machine.finishMove()
    }
    machine.take(line)
  }
  while (machine.finishMove());
  return { machine, seconds: machine.counts.seconds - before }
}
