// Every whole job of the shop, one after the other at the same machines: a campaign.
import { cameraJobs } from './camera-jobs.ts'
import { otherHands } from './other-hands.ts'
import { outlineJobs } from './outline-jobs.ts'
import { pictureJobs } from './picture-jobs.ts'
import { pieceJobs } from './piece-jobs.ts'
import { roundJobs } from './round-jobs.ts'
import { shopJobs } from './shop-jobs.ts'
import { trialJobs } from './trial-jobs.ts'

pictureJobs()
outlineJobs()
shopJobs()
pieceJobs()
roundJobs()
cameraJobs()
trialJobs()
otherHands()
