import { keyOf, numberIn } from '#core/lib/key.ts'
import type {
  mergeRequirements as mergeContract,
  splitRequirement as splitContract,
} from '#core/requirements/contract.ts'
import type { ActionOf } from '#core/history/acts.ts'
import { escapeText, plainText } from '#core/lib/plain-text.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { wouldCycle } from '#core/requirements/outline.ts'
import { sentencesOf } from '#core/requirements/requirement.ts'
import { addAlias } from '#db/cases/merging.ts'
import { addLink, endLink, openLinks } from '#db/cases/links.ts'
import { hideRows } from '#db/finding/search.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { addRequirement, findRequirement, saveRequirement } from '#db/requirements/requirements.ts'
import { childIds, outlinePlaces, placeRequirement, siblings } from '#db/requirements/outline.ts'
import { setTargets, targetsOf } from '#db/requirements/targets.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

type Requirement = NonNullable<ReturnType<typeof findRequirement>>

const keyFor = ({ number }: { readonly number: number }): string => keyOf('requirement', number)

/** Says in the history what became of a requirement, and of which others. */
const tell = (
  context: Context,
  of: Requirement,
  action: ActionOf<'requirement'>,
  detail: Record<string, [null, unknown]>,
) => context.change({ kind: 'requirement', id: of.id, ref: keyFor(of), action, detail })

/** Sentences go to a requirement of their own, right after it; both are linked to the same cases, and what lost words makes its links suspect. */
export function splitRequirement(
  context: Context,
  { params, body }: Input<typeof splitContract>,
): Answer<typeof splitContract> {
  const { tx, project, by } = context
  const own = found(findRequirement(tx, project.id, params.ref), keyOf('requirement', params.ref))
  const all = sentencesOf(own.text)
  if (body.sentences.some((at) => at >= all.length))
    throw new Refusal('conflict', `${keyFor(own)} does not say all these sentences any more; nothing was changed.`)
  const gone = body.sentences.map((at) => all[at] ?? '')
  const made = addBeside(context, own, body.title, gone)
  if (body.links) shareLinks(context, own, made.id)
  tell(context, made, 'created', { 'split from': [null, keyFor(own)] })
  if (gone.length > 0) saveRequirement(tx, own, { text: without(own.text, gone) }, by)
  tell(context, own, 'split', { into: [null, keyFor(made)] })
  return { key: keyFor(made) }
}

/** A requirement of the same kind, right after the one it comes from and testable from the same releases. */
function addBeside({ tx, project, by }: Context, own: Requirement, title: string, sentences: readonly string[]) {
  const number = takeNumbers(tx, project.id, 'requirement')
  const { parentId, position, kind, component, state, likelihood, impact, priority, ownerId } = own
  const text = sentences.map((each) => `<p>${escapeText(each)}</p>`).join('')
  const same = { parentId, position, kind, component, state, likelihood, impact, priority, ownerId }
  const id = addRequirement(tx, { projectId: project.id, number, title, text, ...same }, by)
  const order = siblings(tx, project.id, parentId).filter((each) => each !== id)
  placeRequirement(tx, id, parentId, order.toSpliced(order.indexOf(own.id) + 1, 0, id))
  setTargets(tx, id, targetsOf(tx, own.id))
  return found(findRequirement(tx, project.id, number), keyOf('requirement', number))
}

function shareLinks({ tx, project, by }: Context, own: Requirement, with_: number): void {
  for (const { caseId, confirmedVersionId: versionId } of openLinks(tx, { requirementId: own.id }))
    addLink(tx, { projectId: project.id, requirementId: with_, caseId, revision: 1, versionId }, by)
}

/** The text without some of its sentences. Marks stay where whole sentences can be cut out of them; else they are given up for plain paragraphs. */
function without(text: string, gone: readonly string[]): string {
  const cut = gone
    .reduce((left, sentence) => left.replace(escapeText(sentence), ''), text)
    .replace(/<(p|li|h2|h3)>\s*<\/\1>/g, '')
    .replace(/<(ul|ol)>\s*<\/\1>/g, '')
  const left = plainText(cut)
  if (gone.every((sentence) => !left.includes(sentence))) return cut
  return sentencesOf(text)
    .filter((sentence) => !gone.includes(sentence))
    .map((sentence) => `<p>${escapeText(sentence)}</p>`)
    .join('')
}

/** Others become part of this one: text below its own, links, what is below them; their keys lead here from now on. */
export function mergeRequirements(
  context: Context,
  { params, body }: Input<typeof mergeContract>,
): Answer<typeof mergeContract> {
  const { tx, project, by } = context
  const own = found(findRequirement(tx, project.id, params.ref), keyOf('requirement', params.ref))
  const taken = [...new Set(body.take)].map((key) =>
    found(findRequirement(tx, project.id, numberIn('requirement', key)), key),
  )
  refuseCircles(context, own, taken)
  const links = taken.reduce((sum, each) => sum + takeIn(context, own, each), 0)
  const texts = taken.map((each) => `<p><strong>${escapeText(each.title)}</strong></p>${each.text}`)
  saveRequirement(tx, own, { text: [own.text, ...texts].join('') }, by)
  tell(context, own, 'merged', { took: [null, taken.map(keyFor)] })
  return { links, taken: taken.map(keyFor) }
}

function refuseCircles({ tx, project }: Context, own: Requirement, taken: readonly Requirement[]): void {
  const places = outlinePlaces(tx, project.id)
  for (const each of taken) {
    if (each.id === own.id)
      throw new Refusal('invalid', `${keyFor(own)} cannot be merged into itself; nothing was changed.`)
    if (wouldCycle(places, each.id, own.id))
      throw new Refusal('refused', `${keyFor(own)} is below ${keyFor(each)}; move it out first. Nothing was changed.`)
  }
}

/** Takes one in, with its links and all below it; answers how many links are new. */
function takeIn(context: Context, own: Requirement, each: Requirement): number {
  const { tx, project, now } = context
  const links = openLinks(tx, { requirementId: each.id })
  const added = links.filter((link) => moveLink(context, own, link)).length
  for (const child of childIds(tx, project.id, each.id))
    placeRequirement(tx, child, own.id, [...siblings(tx, project.id, own.id), child])
  addAlias(tx, { projectId: project.id, key: keyFor(each), kind: 'requirement', ownerId: own.id, at: now })
  hideRows(tx, 'requirement', [each.id], now)
  tell(context, each, 'merged', { into: [null, keyFor(own)] })
  return added
}

/** The link is confirmed against nothing yet: the merged text is new to whoever wrote the case. Answers whether it is a new one. */
function moveLink(
  { tx, project, by, now }: Context,
  own: Requirement,
  { id, caseId, confirmedVersionId: versionId, quote }: ReturnType<typeof openLinks>[number],
): boolean {
  const link = { projectId: project.id, requirementId: own.id, caseId, revision: own.revision, versionId, quote }
  const added = addLink(tx, link, by)
  endLink(tx, id, now)
  return Boolean(added)
}
