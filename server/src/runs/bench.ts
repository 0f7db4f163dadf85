import { assetsBench, type Bench } from '@neotaxis/core'

/** What evaluation needs, from the bytes of a job's assets. */
export const benchFor = (assets: Readonly<Record<string, Uint8Array>>): Bench => assetsBench((asset) => assets[asset])
