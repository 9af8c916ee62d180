import { plainText } from '#core/lib/plain-text.ts'
import type { Db } from '#db/open.ts'
import { outsideReferences } from '#db/requirements/outside.ts'

/** What the simulated tracker knows of the demo's requirements: mostly what they say, here and there something newer. */
export function trackerIssues(
  db: Db,
  key: string,
): { ref: string; title: string; state: string; assignee: string | null; body: string; changed: string }[] {
  return outsideReferences(db, key).map(({ ref, title, text, owner, state, at }, index) => ({
    ref,
    title: newerThere[ref]?.title ?? title,
    state: state === 'Done' ? 'built' : index % 3 === 0 ? 'being built' : 'agreed',
    assignee: owner,
    body: `${plainText(text)}${newerThere[ref]?.more ?? ''}`,
    changed: new Date(at + (newerThere[ref] ? 80 : 2) * 86_400_000).toISOString(),
  }))
}

/** Where somebody worded an issue anew and told nobody. */
const newerThere: Readonly<Record<string, { readonly title?: string; readonly more?: string }>> = {
  'HARB-231': { title: 'Hold a place for 20 minutes, 30 for a group' },
  'HARB-127': { more: ' The office wants the rest of a voucher to be paid out on request.' },
}
