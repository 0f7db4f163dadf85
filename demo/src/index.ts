export { demoJobs } from './jobs.ts'
export { dropFiles, ferry, harbourNight, linoFish, tideClockFace } from './pictures.ts'
export { tideClockJob } from './tide-clock.ts'
