declare module 'color-name' {
  /** The colours that CSS knows by name: red, green and blue, 0–255. */
  const names: Readonly<Record<string, readonly [number, number, number]>>
  export default names
}
