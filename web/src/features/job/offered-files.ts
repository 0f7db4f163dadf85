type Take = (files: readonly File[]) => void

const takers = new Set<Take>()

/** Files that come from somewhere else than a hand: they are brought into the job that is open. */
export const offerFiles: Take = (files) => {
  for (const take of takers) take(files)
}

/** Takes what is offered. @returns the way to stop */
export function onOffered(take: Take): () => void {
  takers.add(take)
  return () => {
    takers.delete(take)
  }
}
