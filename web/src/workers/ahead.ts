import type { AssetFacts } from '@neotaxis/contract'

/** Gets something ready that will be wanted soon: nobody waits for it, and where it fails whoever wants it then is told. */
const ahead = (work: (engine: typeof import('./engine.ts')) => unknown): void =>
  void import('./engine.ts').then(work).catch(() => undefined)

/** The workers, compiled and tried. */
export const warmSoon = (): void => ahead(({ warmEngine }) => warmEngine())

/** A picture that came in, fetched and decoded while its proposals are laid out. */
export const pictureSoon = ({ asset, drawing, mesh }: AssetFacts): void => {
  if (!drawing && !mesh) ahead(({ expectPicture }) => expectPicture(asset))
}
