import { keyOf } from '#core/lib/key.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { includesOf } from '#db/plans/sources.ts'
import { noticePins } from '#db/plans/stays.ts'
import { sourcesOf } from '#db/plans/definitions.ts'
import type { SuiteStored } from '#db/plans/suites.ts'
import { type Context, found } from '#server/http/context.ts'

/** A suite that is there and not closed, or a refusal that says so. */
export function openSuite(stored: SuiteStored | undefined, number = stored?.number ?? 0): SuiteStored {
  const suite = found(stored, keyOf('suite', number))
  if (suite.state === 'Closed')
    throw new Refusal(
      'refused',
      `${keyOf('suite', suite.number)} is closed${suite.closedReason === '' ? '' : ` (${suite.closedReason})`}; nothing was stored. Open it again to change it.`,
    )
  return suite
}

/**
 * Writes down at once who is in a suite that holds pins alone, so that whoever looks at the list sees it. Where rules may have to be
 * reckoned over all cases, that is done after the answer, on a thread of its own.
 */
export function noticeAtOnce({ tx, project, by }: Context, suite: number): void {
  const sources = sourcesOf(tx, project.id)
  const includes = includesOf(tx, project.id)
  const isHeld = [...includes.values()].some((all) => all.includes(suite))
  if (!isHeld && sources.every(({ suiteId }) => suiteId !== suite)) noticePins(tx, suite, by)
}
