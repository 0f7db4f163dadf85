export { type Intake, takeIn } from './take-in.ts'
