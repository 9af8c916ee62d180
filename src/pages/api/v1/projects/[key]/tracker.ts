import { readTracker as readTrackerContract, setTracker as setTrackerContract } from '#core/projects/contract.ts'
import { route } from '#server/http/route.ts'
import { readTracker, setTracker } from '#server/projects/update-project.ts'

export const GET = route(readTrackerContract, readTracker)
export const PUT = route(setTrackerContract, setTracker)
