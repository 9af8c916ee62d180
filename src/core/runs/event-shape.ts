import { z } from 'zod'
import { instant } from '#core/lib/shapes.ts'

/** Verdicts are events: the client names itself, counts, and tells its time, so that none is dropped or stored twice. */
export const event = {
  client: z.string().min(8).max(64),
  sequence: z.number().int().min(1),
  at: instant,
  /** The client's clock at this sending, by which `at` is corrected. */
  sent: instant.optional(),
}

/** What became of an event: `said` tells the person what they would not expect, and is empty otherwise. */
export const became = { counts: z.boolean(), said: z.string() }
