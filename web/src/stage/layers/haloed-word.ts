import { TYPE, WEIGHT } from '../../theme/tokens.ts'

const FONT = `${WEIGHT.strong} ${TYPE.small}px 'Atkinson Hyperlegible Next Variable', 'DejaVu Sans', sans-serif`

/** A word on the stage that is read on any ground: with a halo. Places in CSS px. */
export function haloedWord(
  context: CanvasRenderingContext2D,
  { ink, halo }: { readonly ink: string; readonly halo: string },
  text: string,
  [x, y]: readonly [number, number],
  { align = 'center', turn = 0 }: { readonly align?: CanvasTextAlign; readonly turn?: number } = {},
): void {
  context.save()
  context.font = FONT
  context.lineJoin = 'round'
  context.translate(x, y)
  context.rotate(turn)
  context.textAlign = align
  context.textBaseline = 'middle'
  context.lineWidth = 4
  context.strokeStyle = halo
  context.strokeText(text, 0, 0)
  context.fillStyle = ink
  context.fillText(text, 0, 0)
  context.restore()
}
