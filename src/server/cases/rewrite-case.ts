import { keyOf } from '#core/lib/key.ts'
import { fingerprintText, type VersionContent } from '#core/cases/steps.ts'
import { caseById, saveCase, type CaseStored } from '#db/cases/cases.ts'
import { workingCopy, writeContent } from '#db/cases/versions.ts'
import { type Context, fingerprint, found } from '#server/http/context.ts'
import { cutFrom } from './cut-version.ts'

/** The fingerprint of what a version says: what a working copy is stamped with. */
export const stampOf = (content: VersionContent): string => fingerprint(fingerprintText(content))

/** Another content for the working copy, cut as a version that says why; what was typed and not yet cut stays a version of its own. */
export function rewriteCase(context: Context, own: CaseStored, next: VersionContent, why: string): void {
  const { tx, now } = context
  cutFrom(context, own, '')
  writeContent(tx, { id: workingCopy(tx, own.id).id, caseId: own.id }, next, stampOf(next))
  saveCase(tx, own.id, { steps: next.steps.length, updatedAt: now })
  if (next.steps.length > 0) cutFrom(context, found(caseById(tx, own.id), keyOf('case', own.number)), why)
}
