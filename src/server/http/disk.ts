/** When something could last not be written for want of room; 0 if never. */
let lastFull = 0

const codes = /^(ENOSPC|EDQUOT|SQLITE_FULL)/

/** Whether something could not be written because the disk is full, or what may be used of it; remembered for the health of the server. */
export function isDiskFull(error: unknown): boolean {
  for (let cause: unknown = error; cause instanceof Error; cause = cause.cause)
    if ('code' in cause && codes.test(String(cause.code))) {
      lastFull = Date.now()
      return true
    }
  return false
}

export const lastFullAt = (): number => lastFull

/** Does what may be left undone where there is no room for it: people go on reading then. */
export function unlessFull(work: () => void): void {
  try {
    work()
  } catch (error) {
    if (!isDiskFull(error)) throw error
  }
}
