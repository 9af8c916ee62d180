import type { z } from 'zod'

/** What a text kept in this browser says, if it has this shape: it may be broken, or an older page's. */
export function shaped<T>(text: string | null, shape: z.ZodType<T>): T | null {
  try {
    return shape.safeParse(JSON.parse(text ?? 'null')).data ?? null
  } catch {
    return null
  }
}
