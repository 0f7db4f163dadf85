import type { Drawn, RedrawnAs } from '@neotaxis/core'
import { bringIn } from '../../api/orders.ts'
import { drawnFile } from '../../workers/engine.ts'

/**
 * Draws something that is there already by other numbers.
 * @returns what it becomes, and what is told of it; undefined where nothing is drawn @throws Error with a sentence where it cannot be
 */
export async function redraw(
  before: Drawn,
  drawn: Drawn,
): Promise<{ readonly as: RedrawnAs; readonly notices: readonly string[] } | undefined> {
  const file = await drawnFile(drawn)
  const { asset, drawing } = await bringIn(new Blob([file.svg]))
  if (!drawing) return undefined
  const { widthMm, heightMm } = drawing
  const as = { drawn, asset, widthMm, heightMm, looks: file.looks }
  // A text stays where it begins, or on the line that it stands on, whatever is written.
  if (drawn.kind !== 'text') return { as, notices: file.notices }
  const { box: old } = await drawnFile(before)
  const origin = { before: [-old.x0, -old.y0], after: [-file.box.x0, -file.box.y0] } as const
  return { as: { ...as, origin }, notices: file.notices }
}
