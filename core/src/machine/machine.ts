/** What a machine can do. Machine coordinates: mm, origin and axes as the controller has them. */
export interface Machine {
  readonly id: string
  readonly version: number
  readonly name: string
  readonly bed: { readonly widthMm: number; readonly heightMm: number }
  /** Where the controller's zero lies, seen by someone in front of the machine. */
  readonly zero: 'front-left' | 'rear-left'
  readonly watts: number
  /** The S value that means full power. */
  readonly fullPowerS: number
  readonly maxSpeedMmS: { readonly x: number; readonly y: number }
  readonly accelerationMmS2: { readonly x: number; readonly y: number }
  /** How far a corner may be cut in thought when its speed is chosen. */
  readonly junctionDeviationMm: number
  /** How many moves the controller looks ahead. */
  readonly plannerDepth: number
  readonly spotMm: number
  readonly hasAir: boolean
}
