import { readFrame as readFrameContract } from '#core/projects/contract.ts'
import { openRoute } from '#server/http/route.ts'
import { readFrame } from '#server/projects/read-frame.ts'

export const GET = openRoute(readFrameContract, readFrame)
