import { main } from '../main.ts'

/** What the command line says to some words, and with which code it ends. */
export async function ran(
  ...args: readonly string[]
): Promise<{ readonly code: number; readonly out: string; readonly err: string }> {
  let [out, err] = ['', '']
  const code = await main([...args], {
    out: (text) => {
      out += text
    },
    err: (text) => {
      err += text
    },
  })
  return { code, out, err }
}
