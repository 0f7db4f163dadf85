// The kernel of burned dots: marks → darkness → how much of each cell is dark. Compiled to `core/src/kernels/burned.wasm.ts`.

/** Where memory is free for the caller. */
export function freeFrom(): usize {
  return __heap_base
}

/** Every byte led through a table of 256. */
export function throughBytes(bytes: i32, n: i32, table: i32, out: i32): void {
  for (let i = 0; i < n; i++) store<u8>(out + i, load<u8>(table + load<u8>(bytes + i)))
}

/**
 * One row: what a cell lacks beside each darker neighbour, times a share, on top of its own.
 * @param dark with a byte of nothing before its first and fifteen behind its last @param share in 1/256, at most 128
 */
export function coverRow(dark: i32, n: i32, share: i32, out: i32): void {
  const by = i16x8.splat(<i16>share)
  const half = i16x8.splat(128)
  for (let i = 0; i < n; i += 16) {
    const at = dark + i
    const own = v128.load(at)
    const left = i8x16.sub_sat_u(v128.load(at - 1), own)
    const right = i8x16.sub_sat_u(v128.load(at + 1), own)
    const low = i16x8.add(i16x8.extend_low_i8x16_u(left), i16x8.extend_low_i8x16_u(right))
    const high = i16x8.add(i16x8.extend_high_i8x16_u(left), i16x8.extend_high_i8x16_u(right))
    const more = i8x16.narrow_i16x8_u(
      i16x8.shr_u(i16x8.add(i16x8.mul(low, by), half), 8),
      i16x8.shr_u(i16x8.add(i16x8.mul(high, by), half), 8),
    )
    v128.store(out + i, i8x16.add_sat_u(own, more))
  }
}

/** How often a byte differs from the one before it, from the second on. @param bytes with room for 16 more behind the last */
export function changes(bytes: i32, n: i32): i32 {
  let count = 0
  let i = 1
  for (; i + 16 <= n; i += 16) {
    const differ = i8x16.ne(v128.load(bytes + i), v128.load(bytes + i - 1))
    count += popcnt<i32>(i8x16.bitmask(differ))
  }
  for (; i < n; i++) count += <i32>(load<u8>(bytes + i) !== load<u8>(bytes + i - 1))
  return count
}
