import { keyOf, numberIn } from '#core/lib/key.ts'
import type {
  mergeRequirements as mergeContract,
  splitRequirement as splitContract,
} from '#core/requirements/contract.ts'
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

/** Sentences go to a requirement of their own, right after it; both are linked to the same cases, and what lost words makes its links suspect. */
export function splitRequirement(
  context: Context,
  { params, body }: Input<typeof splitContract>,
): Answer<typeof splitContract> {
  const { tx, project, by } = context
  const own = found(findRequirement(tx, project.id, params.ref), keyOf('requirement', params.ref))
  const sentences = sentencesOf(own.text)
  if (body.sentences.some((at) => at >= sentences.length))
    throw new Refusal(
      'conflict',
      `${keyOf('requirement', params.ref)} does not say all these sentences any more; nothing was changed.`,
    )
  const number = takeNumbers(tx, project.id, 'requirement')
  const { kind, component, state, likelihood, impact, priority, ownerId } = own
  const text = body.sentences.map((at) => `<p>${escapeText(sentences[at] ?? '')}</p>`).join('')
  const id = addRequirement(
    tx,
    {
      projectId: project.id,
      number,
      parentId: own.parentId,
      position: own.position,
      title: body.title,
      text,
      kind,
      component,
      state,
      likelihood,
      impact,
      priority,
      ownerId,
    },
    by,
  )
  const order = siblings(tx, project.id, own.parentId).filter((each) => each !== id)
  const at = order.indexOf(own.id) + 1
  placeRequirement(tx, id, own.parentId, [...order.slice(0, at), id, ...order.slice(at)])
  setTargets(tx, id, targetsOf(tx, own.id))
  if (body.links)
    for (const link of openLinks(tx, { requirementId: own.id }))
      addLink(
        tx,
        {
          projectId: project.id,
          requirementId: id,
          caseId: link.caseId,
          revision: 1,
          versionId: link.confirmedVersionId,
        },
        by,
      )
  context.change({
    kind: 'requirement',
    id,
    ref: keyOf('requirement', number),
    action: 'created',
    detail: { 'split from': [null, keyOf('requirement', own.number)] },
  })
  if (body.sentences.length > 0) {
    const left = without(
      own.text,
      body.sentences.map((each) => sentences[each] ?? ''),
    )
    saveRequirement(tx, own, { text: left }, by)
  }
  context.change({
    kind: 'requirement',
    id: own.id,
    ref: keyOf('requirement', own.number),
    action: 'split',
    detail: { into: [null, keyOf('requirement', number)] },
  })
  return { key: keyOf('requirement', number) }
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
  const { tx, project, by, now } = context
  const own = found(findRequirement(tx, project.id, params.ref), keyOf('requirement', params.ref))
  const taken = [...new Set(body.take)].map((key) =>
    found(findRequirement(tx, project.id, numberIn('requirement', key)), key),
  )
  const places = outlinePlaces(tx, project.id)
  for (const each of taken) {
    if (each.id === own.id)
      throw new Refusal(
        'invalid',
        `${keyOf('requirement', own.number)} cannot be merged into itself; nothing was changed.`,
      )
    if (wouldCycle(places, each.id, own.id))
      throw new Refusal(
        'refused',
        `${keyOf('requirement', own.number)} is below ${keyOf('requirement', each.number)}; move it out first. Nothing was changed.`,
      )
  }
  let links = 0
  for (const each of taken) {
    for (const link of openLinks(tx, { requirementId: each.id })) {
      // The link is confirmed against nothing yet: the merged text is new to whoever wrote the case.
      if (
        addLink(
          tx,
          {
            projectId: project.id,
            requirementId: own.id,
            caseId: link.caseId,
            revision: own.revision,
            versionId: link.confirmedVersionId,
            quote: link.quote,
          },
          by,
        )
      )
        links += 1
      endLink(tx, link.id, now)
    }
    for (const child of childIds(tx, project.id, each.id))
      placeRequirement(tx, child, own.id, [...siblings(tx, project.id, own.id), child])
    addAlias(tx, {
      projectId: project.id,
      key: keyOf('requirement', each.number),
      kind: 'requirement',
      ownerId: own.id,
      at: now,
    })
    hideRows(tx, 'requirement', [each.id], now)
    context.change({
      kind: 'requirement',
      id: each.id,
      ref: keyOf('requirement', each.number),
      action: 'merged',
      detail: { into: [null, keyOf('requirement', own.number)] },
    })
  }
  const text = [own.text, ...taken.map((each) => `<p><strong>${escapeText(each.title)}</strong></p>${each.text}`)].join(
    '',
  )
  saveRequirement(tx, own, { text }, by)
  context.change({
    kind: 'requirement',
    id: own.id,
    ref: keyOf('requirement', own.number),
    action: 'merged',
    detail: { took: [null, taken.map(({ number }) => keyOf('requirement', number))] },
  })
  return { links, taken: taken.map(({ number }) => keyOf('requirement', number)) }
}
