export { checkJob } from '@neotaxis/core'
