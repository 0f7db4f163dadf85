/**
 * A picture at dot pitch while it is treated: lightness 0 black to 65535 white, and how much of each dot may burn.
 * 16 bit, so that no step costs a tone.
 */
export interface Plane {
  readonly width: number
  readonly height: number
  readonly tone: Uint16Array
  /** 0–255; absent where all may burn. */
  alpha?: Uint8Array
}

export const WHITE = 65_535
