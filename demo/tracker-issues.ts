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
    title: index % 11 === 4 ? `${title}, also at sea` : title,
    state: state === 'Done' ? 'built' : index % 3 === 0 ? 'being built' : 'agreed',
    assignee: owner,
    body: index % 7 === 2 ? `${plainText(text)} The harbour office wants this before the summer.` : plainText(text),
    changed: new Date(at + (index % 7 === 2 ? 80 : 2) * 86_400_000).toISOString(),
  }))
}
