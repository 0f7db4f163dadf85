/** Darkness at a tone 0–1 between the measured ones, on straight lines. */
function darknessAt(response: Float64Array, tone: number): number {
  const at = Math.min(response.length - 1, Math.max(0, tone * (response.length - 1)))
  const i = Math.min(response.length - 2, Math.floor(at))
  return response[i] + (response[i + 1] - response[i]) * (at - i)
}

/** Tones on which a gamma is judged. */
const JUDGED = Array.from({ length: 17 }, (_, i) => (i + 1) / 18)

/** How far the forecast of a picture is off its tones with a gamma on its lightness (RMS), where the surface answers so. */
export function toneError(response: Float64Array, gamma: number, inverted: boolean): number {
  const sum = JUDGED.reduce((total, light) => {
    const graded = light ** (1 / gamma)
    const off = inverted ? darknessAt(response, graded) - light : darknessAt(response, 1 - graded) - (1 - light)
    return total + off * off
  }, 0)
  return Math.sqrt(sum / JUDGED.length)
}

const LEAST = 0.4
const MOST = 2.5

/**
 * The gamma on lightness with which the forecast shows a picture's tones most truly (least squares, golden section;
 * W. H. Press et al., Numerical Recipes, 10.2). @param response darkness for even steps of tone, see `toneResponse`
 */
export function bestGamma(response: Float64Array, inverted: boolean): number {
  const shrink = (Math.sqrt(5) - 1) / 2
  const error = (log: number): number => toneError(response, Math.exp(log), inverted)
  let low = Math.log(LEAST)
  let high = Math.log(MOST)
  let a = high - shrink * (high - low)
  let b = low + shrink * (high - low)
  let ea = error(a)
  let eb = error(b)
  while (high - low > 1e-3) {
    if (ea < eb) {
      high = b
      b = a
      eb = ea
      a = high - shrink * (high - low)
      ea = error(a)
    } else {
      low = a
      a = b
      ea = eb
      b = low + shrink * (high - low)
      eb = error(b)
    }
  }
  return Math.exp((low + high) / 2)
}
