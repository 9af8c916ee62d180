import type {
  addReason as reasonContract,
  addVerdict as addContract,
  copyVerdict as copyContract,
  orderVerdicts as orderContract,
  retireReason as retireContract,
  setPolicy as policyContract,
  updateVerdict as updateContract,
} from '#core/projects/words-contract.ts'
import { changedFields } from '#core/history/changes.ts'
import { definedOf } from '#core/lib/defined.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { verdictKind, verdicts } from '#core/lib/verdict.ts'
import { differing, policySentences } from '#core/projects/policy.ts'
import { keepPolicy, policyById } from '#db/projects/policies.ts'
import { findProject, saveProject } from '#db/projects/projects.ts'
import {
  addVerdictKind,
  addVerdictReason,
  orderVerdictKinds,
  retireVerdictReason,
  saveVerdictKind,
  verdictKinds,
  verdictReasons,
} from '#db/projects/verdict-kinds.ts'
import { roleOf } from '#server/http/permission.ts'
import { checkVersion, type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

export function setPolicy(context: Context, { body }: Input<typeof policyContract>): Answer<typeof policyContract> {
  const { tx, project, now } = context
  checkVersion(context, { version: project.policyId ?? 0 }, 'the policy')
  const before = policyById(tx, project.policyId)
  if (differing(before, body).length === 0) return { version: project.policyId ?? 0 }
  const id = keepPolicy(tx, project.id, body, now)
  saveProject(tx, project.id, { policyId: id })
  told(context, 'policy changed', { policy: [policySentences(before).join(' '), policySentences(body).join(' ')] })
  return { version: id }
}

const told = (
  { project, change }: Context,
  action:
    'policy changed' | 'verdict added' | 'verdict changed' | 'verdict retired' | 'reason added' | 'reason retired',
  detail: Readonly<Record<string, readonly [unknown, unknown]>>,
): void => change({ kind: 'project', id: project.id, ref: project.key, action, detail })

const sameWord = (one: string, other: string): boolean => one.toLowerCase() === other.toLowerCase()

function refuseTwin(word: string, own: readonly { readonly word: string; readonly retiredAt: number | null }[]): void {
  const twin = own.find((each) => sameWord(each.word, word))
  const said = twin
    ? twin.retiredAt === null
      ? `“${twin.word}” is there already; nothing was stored.`
      : `“${twin.word}” is there already, and retired: take it into use again instead. Nothing was stored.`
    : null
  if (said) throw new Refusal('invalid', said, { fields: [{ field: 'word', message: 'is there already' }] })
}

export function addVerdict(context: Context, { body }: Input<typeof addContract>): Answer<typeof addContract> {
  const { tx, project } = context
  const usual = verdicts.map((word) => ({ word, retiredAt: null }))
  refuseTwin(body.word, [...usual, ...verdictKinds(tx, project.id)])
  refuseOfNothing(body)
  const id = addVerdictKind(tx, project.id, body)
  told(context, 'verdict added', { verdict: [null, `${body.word}, counts as ${body.countsAs}`] })
  return { id }
}

/** The same word, drawing and meaning in other projects of whoever leads them; from then on each keeps its own. */
export function copyVerdict(
  context: Context,
  { params, body }: Input<typeof copyContract>,
): Answer<typeof copyContract> {
  const { tx, project, person, limit } = context
  const own = verdictKinds(tx, project.id).find(({ id }) => id === params.id)
  const kind = verdictKind.parse(found(own, 'This verdict'))
  const added: string[] = []
  const left: { project: string; why: string }[] = []
  for (const key of new Set(body.projects)) {
    const other = findProject(tx, key)
    if (!other || other.id === project.id || roleOf(tx, other, { person, limit }) !== 'lead') {
      left.push({ project: key, why: 'it is no other project you lead' })
      continue
    }
    try {
      addVerdict(context.within(other), { params: { key }, query: undefined, body: kind })
      added.push(key)
    } catch (error) {
      if (!(error instanceof Refusal)) throw error
      left.push({ project: key, why: error.sentence })
    }
  }
  return { added, left }
}

function refuseOfNothing({ forItems, forSteps }: { readonly forItems: boolean; readonly forSteps: boolean }): void {
  if (!forItems && !forSteps)
    throw new Refusal(
      'invalid',
      'A verdict is said of items, of steps or of both; retire it where it is said of none.',
      {
        fields: [{ field: 'forItems', message: 'or of steps' }],
      },
    )
}

export function updateVerdict(
  context: Context,
  { params, body }: Input<typeof updateContract>,
): Answer<typeof updateContract> {
  const { tx, project, now } = context
  const own = found(
    verdictKinds(tx, project.id).find(({ id }) => id === params.id),
    'This verdict',
  )
  const { retired, ...drawn } = body
  refuseOfNothing({ ...own, ...definedOf(drawn) })
  const edit = {
    ...definedOf(drawn),
    ...(retired !== undefined && { retiredAt: retired ? (own.retiredAt ?? now) : null }),
  }
  const detail = changedFields({ ...own }, edit)
  if (Object.keys(detail).length === 0) return { ok: true }
  saveVerdictKind(tx, own.id, edit)
  told(context, retired ? 'verdict retired' : 'verdict changed', {
    verdict: [null, own.word],
    ...(retired === undefined && detail),
  })
  return { ok: true }
}

export function orderVerdicts(context: Context, { body }: Input<typeof orderContract>): Answer<typeof orderContract> {
  const { tx, project } = context
  const own = verdictKinds(tx, project.id).map(({ id }) => id)
  // Whoever did not know of one that came meanwhile leaves it at the end.
  orderVerdictKinds(tx, project.id, [...new Set([...body.ids, ...own])])
  told(context, 'verdict changed', {
    order: [
      null,
      verdictKinds(tx, project.id)
        .map(({ word }) => word)
        .join(', '),
    ],
  })
  return { ok: true }
}

export function addReason(context: Context, { body }: Input<typeof reasonContract>): Answer<typeof reasonContract> {
  const { tx, project } = context
  refuseTwin(
    body.word,
    verdictReasons(tx, project.id).filter(({ verdict }) => verdict === body.verdict),
  )
  const id = addVerdictReason(tx, project.id, body)
  told(context, 'reason added', { [body.verdict]: [null, body.word] })
  return { id }
}

export function retireReason(
  context: Context,
  { params, body }: Input<typeof retireContract>,
): Answer<typeof retireContract> {
  const { tx, project, now } = context
  const own = found(
    verdictReasons(tx, project.id).find(({ id }) => id === params.id),
    'This reason',
  )
  if ((own.retiredAt !== null) === body.retired) return { ok: true }
  retireVerdictReason(tx, own.id, body.retired ? now : null)
  told(context, body.retired ? 'reason retired' : 'reason added', { [own.verdict]: [null, own.word] })
  return { ok: true }
}
