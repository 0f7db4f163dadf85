/** What something that turns is held in. */
export interface RotaryDevice {
  readonly name: string
  readonly drive: RollerDrive | ChuckDrive
  /** Which axis of the controller turns it: one of its own, or the one whose motor is unplugged for it. */
  readonly axis: 'y' | 'a'
  /** −1: it turns the other way than the axis counts. */
  readonly direction: 1 | -1
  /** Diameters that it holds, and how long what it holds may be, mm. */
  readonly smallestMm: number
  readonly largestMm: number
  readonly longestMm: number
  /** How fast its surface goes at most, mm/s, and how soon, mm/s²; of a chuck at the largest diameter. */
  readonly speedMmS: number
  readonly accelerationMmS2: number
}

/** Two rollers that the object lies on: one of them is driven, and its own surface goes as the object's does. */
export interface RollerDrive {
  readonly kind: 'roller'
  readonly rollerMm: number
  /** Of the motor, for one turn of the roller. */
  readonly stepsPerTurn: number
}

/** Jaws that hold the object at one end. */
export interface ChuckDrive {
  readonly kind: 'chuck'
  /** Of the motor, for one of its own turns; and how often it turns for one of the chuck. */
  readonly stepsPerTurn: number
  readonly gear: number
}
