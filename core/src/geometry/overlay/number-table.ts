/** Numbers its keys in the order they come: an open-addressing table, much quicker than `Map` for hundreds of thousands. */
export class NumberTable {
  size = 0
  private keys: Float64Array
  private values: Int32Array

  /** @param expected about how many keys there will be */
  constructor(expected: number) {
    const slots = 2 ** Math.ceil(Math.log2(2 * expected + 16))
    this.keys = new Float64Array(slots).fill(-1)
    this.values = new Int32Array(slots)
  }

  /** @param key a whole number of at most 52 bits @returns its number, a new one for a new key */
  numberOf(key: number): number {
    if (2 * this.size >= this.keys.length) this.grow()
    const at = this.slot(key)
    if (this.keys[at] === key) return this.values[at]
    this.keys[at] = key
    this.values[at] = this.size
    return this.size++
  }

  private slot(key: number): number {
    const mask = this.keys.length - 1
    const high = Math.floor(key / 0x4000000)
    let hash = Math.imul(high ^ 0x9e3779b9, 0x85ebca6b) ^ Math.imul(key - high * 0x4000000, 0xc2b2ae35)
    hash ^= hash >>> 15
    let at = hash & mask
    while (this.keys[at] !== -1 && this.keys[at] !== key) at = (at + 1) & mask
    return at
  }

  private grow(): void {
    const { keys, values } = this
    this.keys = new Float64Array(2 * keys.length).fill(-1)
    this.values = new Int32Array(2 * keys.length)
    for (let i = 0; i < keys.length; i++) {
      if (keys[i] === -1) continue
      const at = this.slot(keys[i])
      this.keys[at] = keys[i]
      this.values[at] = values[i]
    }
  }
}
