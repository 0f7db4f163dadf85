export { type ShippedFont, shippedFonts } from './shipped-fonts.ts'
export { type Intake, takeIn } from './take-in.ts'
