import { codeModules } from '@neotaxis/core'

/** A code as it would be printed, with the ground that scanners ask for. */
export function CodePicture({ text, px }: { readonly text: string; readonly px: number }) {
  const modules = codeModules(text)
  const side = modules.length + 4
  const data = modules.flatMap((row, y) => row.flatMap((dark, x) => (dark ? [`M${x + 2} ${y + 2}h1v1h-1z`] : []))).join('')
  return (
    <svg width={px} height={px} viewBox={`0 0 ${side} ${side}`} role="img" aria-label={`Code ${text}`}>
      <path d={`M0 0h${side}v${side}h${-side}z`} fill="#fff" />
      <path d={data} fill="#000" shapeRendering="crispEdges" />
    </svg>
  )
}
