import { z } from 'zod'

/** More of everybody's time than this is not kept for retests, in per cent: nobody would have any left. */
export const mostReserve = 90
export const reserve = z.number().min(0, 'is below 0').max(mostReserve, `is more than ${mostReserve}`)
