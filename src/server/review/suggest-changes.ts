import { keyOf } from '#core/lib/key.ts'
import { z } from 'zod'
import type {
  decideSuggestion as decideContract,
  readSuggestion as readContract,
  startSuggestion as startContract,
  storeSuggestion as storeContract,
} from '#core/review/contract.ts'
import { compareVersions } from '#core/cases/compare.ts'
import { parametersIn, type StepText, type VersionContent, versionName, withTexts } from '#core/cases/steps.ts'
import { plainText } from '#core/lib/plain-text.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { caseById, findCase, saveCase } from '#db/cases/cases.ts'
import { readContent, type StoredContent, versionById, workingCopy, writeContent } from '#db/cases/versions.ts'
import { addSuggestion, findSuggestion, saveSuggestion, type SuggestionStored } from '#db/review/reviews.ts'
import { tell } from '#db/talk/inbox.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { comparisonAnswer } from '#server/cases/compare-case.ts'
import { contentAnswer } from '#server/cases/content.ts'
import { cutFrom } from '#server/cases/cut-version.ts'
import { stampOf } from '#server/cases/rewrite-case.ts'

/** Steps name the place they have in the version the suggestion was made from; what a step inserts stays as it is there. */
const kept = z.object({
  preconditions: z.string(),
  rows: z.array(z.record(z.string(), z.string())),
  steps: z.array(z.object({ from: z.number().nullable(), action: z.string(), expected: z.string(), data: z.string() })),
})
type Kept = z.output<typeof kept>

export function startSuggestion(
  context: Context,
  { params }: Input<typeof startContract>,
): Answer<typeof startContract> {
  const { tx, project, person, now } = context
  const own = found(findCase(tx, project.id, params.ref), keyOf('case', params.ref))
  const cut = cutFrom(context, own, 'somebody suggests changes')
  if (cut.id === null)
    throw new Refusal('refused', `${keyOf('case', params.ref)} says nothing yet that could be changed.`)
  const version = versionById(tx, cut.id)
  if (!version) throw new Error(`version ${cut.id} is gone`)
  const base = readContent(tx, version)
  const content: Kept = {
    preconditions: base.preconditions,
    rows: base.rows.map((row) => ({ ...row })),
    steps: base.steps.map(({ action, expected, data }, from) => ({ from, action, expected, data })),
  }
  return {
    id: addSuggestion(tx, {
      projectId: project.id,
      caseId: own.id,
      versionId: version.id,
      content: JSON.stringify(content),
      at: now,
      personId: person.id,
    }),
  }
}

function suggestionIn(
  { tx, project }: Context,
  id: number,
): { stored: SuggestionStored; base: StoredContent; content: VersionContent; name: string; number: number } {
  const stored = findSuggestion(tx, project.id, id)
  const version = stored && versionById(tx, stored.versionId)
  const own = stored && caseById(tx, stored.caseId)
  if (!stored || !version || !own) throw new Refusal('not-found', 'There is no such suggestion in this project.')
  const base = readContent(tx, version)
  const { preconditions, steps, rows } = kept.parse(JSON.parse(stored.content))
  const given = steps.map(({ from, ...texts }): StepText => {
    const before = from === null ? undefined : base.steps[from]
    return before?.use ? before : { id: before?.id ?? null, ...texts, ...(before?.evidence && { evidence: true }) }
  })
  const parameters = [...new Set([...parametersIn({ preconditions, steps: given }), ...base.parameters])]
  return {
    stored,
    base,
    content: { ...base, preconditions, steps: given, rows, parameters },
    name: versionName(version.major ?? 0, version.minor ?? 0),
    number: own.number,
  }
}

const readable = (content: VersionContent): VersionContent => ({
  ...content,
  preconditions: plainText(content.preconditions),
  steps: content.steps.map((step) => withTexts(step, plainText)),
})

export function readSuggestion(context: Context, { params }: Input<typeof readContract>): Answer<typeof readContract> {
  const { stored, base, content, name, number } = suggestionIn(context, params.id)
  return {
    id: stored.id,
    case: keyOf('case', number),
    version: name,
    mine: stored.personId === context.person.id,
    state: stored.state,
    note: stored.note,
    content: contentAnswer(content),
    contentStamp: stampOf(content),
    comparison: comparisonAnswer(compareVersions(readable(base), readable(content))),
  }
}

/** Only who suggests writes, and only while nobody has decided. */
export function storeSuggestion(
  context: Context,
  { params, body }: Input<typeof storeContract>,
): Answer<typeof storeContract> {
  const { tx, now, person, project } = context
  const { stored, base, content, number } = suggestionIn(context, params.id)
  if (stored.personId !== person.id) throw new Refusal('not-allowed', 'Only who made a suggestion can change it.')
  if (stored.state !== 'Open')
    throw new Refusal('refused', `This suggestion was ${stored.state.toLowerCase()} already; make a new one.`)
  if (body.content && body.stamp !== stampOf(content))
    throw new Refusal('conflict', 'This suggestion was changed in another window; yours is kept here.', {
      current: { content: contentAnswer(content), stamp: stampOf(content) },
    })
  if (body.content) {
    const places = new Map(base.steps.map(({ id }, index) => [id, index]))
    const next: Kept = {
      preconditions: body.content.preconditions,
      rows: body.content.rows,
      steps: body.content.steps
        .filter(({ action, expected, data }) => `${action}${expected}${data}`.trim() !== '')
        .map(({ id, action, expected, data }) => ({
          from: id === null ? null : (places.get(id) ?? null),
          action,
          expected,
          data,
        })),
    }
    saveSuggestion(tx, stored.id, { content: JSON.stringify(next) })
  }
  if (body.note !== undefined) {
    saveSuggestion(tx, stored.id, { note: body.note })
    const own = caseById(tx, stored.caseId)
    const author = versionById(tx, stored.versionId)?.createdBy
    for (const personId of new Set([own?.ownerId, author]))
      if (personId)
        tell(tx, {
          projectId: project.id,
          personId,
          kind: 'suggestion',
          ref: keyOf('case', number),
          text: `suggests changes to ${own?.title ?? ''}${body.note === '' ? '' : `: ${body.note}`}`,
          fromId: person.id,
          at: now,
        })
    context.change({
      kind: 'case',
      id: stored.caseId,
      ref: keyOf('case', number),
      action: 'changes suggested',
      verdict: true,
    })
  }
  const after = suggestionIn(context, stored.id).content
  return { content: contentAnswer(after), stamp: stampOf(after), at: now }
}

/** Taking puts it into the working copy; what stood there is kept as a version. */
export function decideSuggestion(
  context: Context,
  { params, body }: Input<typeof decideContract>,
): Answer<typeof decideContract> {
  const { tx, person, now, project } = context
  const { stored, content, number } = suggestionIn(context, params.id)
  if (stored.state !== 'Open')
    throw new Refusal('refused', `This suggestion was ${stored.state.toLowerCase()} already.`)
  const own = found(caseById(tx, stored.caseId), keyOf('case', number))
  const before = body.take ? cutFrom(context, own, 'kept before a suggestion was taken') : null
  if (body.take) {
    const stamp = stampOf(content)
    writeContent(tx, { id: workingCopy(tx, own.id).id, caseId: own.id }, content, stamp)
    saveCase(tx, own.id, { steps: content.steps.length, updatedAt: now })
  }
  saveSuggestion(tx, stored.id, { state: body.take ? 'Taken' : 'Declined', decidedAt: now, decidedBy: person.id })
  tell(tx, {
    projectId: project.id,
    personId: stored.personId,
    kind: 'answer',
    ref: keyOf('case', number),
    text: `${body.take ? 'took' : 'declined'} your suggestion for ${own.title}`,
    fromId: person.id,
    at: now,
  })
  context.change({
    kind: 'case',
    id: own.id,
    ref: keyOf('case', number),
    action: body.take ? 'suggestion taken' : 'suggestion declined',
  })
  return { kept: before?.cut ? before.name : null }
}
