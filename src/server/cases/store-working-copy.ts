import type { storeWorkingCopy as contract } from '#core/cases/contract.ts'
import { fingerprintText, parametersIn, type VersionContent, withTexts } from '#core/cases/steps.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { findCase, readContent, saveCase, stepIdsOf, workingCopy, writeContent } from '#db/cases/queries.ts'
import { type Context, fingerprint, found } from '#server/http/context.ts'
import { cleanHtml } from '#server/talk/clean-html.ts'
import type { Answer, Input } from '#server/http/route.ts'

/** Stores the working copy as it is typed. It is refused when somebody else's typing came between: theirs is answered. */
export function storeWorkingCopy(context: Context, { params, body }: Input<typeof contract>): Answer<typeof contract> {
  const { tx, project, now } = context
  const stored = found(findCase(tx, project.id, params.ref), `TC-${params.ref}`)
  const working = workingCopy(tx, stored.id)
  if (working.fingerprint !== body.stamp)
    throw new Refusal('conflict', `Somebody changed the steps of TC-${params.ref} while you were writing. Yours are kept here; look at theirs, then store again.`, { current: { content: readContent(tx, working), stamp: working.fingerprint } })
  const known = stepIdsOf(tx, stored.id)
  if (body.content.steps.some(({ id }) => id !== null && !known.has(id))) throw new Refusal('invalid', 'A step belongs to another case; nothing was stored.')
  const content = cleaned(body.content)
  const stamp = fingerprint(fingerprintText(content))
  if (stamp !== working.fingerprint || content.steps.some(({ id }) => id === null)) {
    writeContent(tx, { id: working.id, caseId: stored.id }, content, stamp)
    saveCase(tx, stored.id, { steps: content.steps.length, updatedAt: now })
    context.change({ kind: 'case', id: stored.id, ref: `TC-${stored.number}`, action: 'written' })
  }
  const after = readContent(tx, workingCopy(tx, stored.id))
  return { content: { ...after, parameters: [...after.parameters], rows: after.rows.map((row) => ({ ...row })) }, stamp, at: now }
}

/** Safe rich text, empty steps dropped, parameters as the text uses them (those with values kept). */
function cleaned(of: Input<typeof contract>['body']['content']): VersionContent {
  const steps = of.steps.map((step) => withTexts(step, cleanHtml)).filter(({ action, expected, data }) => `${action}${expected}${data}`.trim() !== '')
  const preconditions = cleanHtml(of.preconditions)
  const used = parametersIn({ preconditions, steps })
  const valued = of.parameters.filter((name) => !used.includes(name) && of.rows.some((row) => (row[name] ?? '') !== ''))
  return { preconditions, steps, parameters: [...used, ...valued], rows: of.rows }
}
