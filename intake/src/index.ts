export { artworkPicture } from './artwork-picture.ts'
export { resolvedDrawing } from './resolved-drawing.ts'
export { type ShippedFont, shippedFonts } from './shipped-fonts.ts'
export { type Intake, readPhoto, takeIn } from './take-in.ts'
