import { z } from 'zod'
import { finalVerdict, type Verdict } from '#core/lib/verdict.ts'

/** What a tester may be asked for beside a verdict. */
export const askables = ['a word', 'a reason', 'evidence', 'a defect'] as const
export type Askable = (typeof askables)[number]
/** Verdicts that may ask for something; whoever passes an item owes nothing. */
export const askingVerdicts = ['Failed', 'Blocked', 'Inconclusive', 'Skipped'] as const
export type AskingVerdict = (typeof askingVerdicts)[number]

export const deciders = ['steps', 'tester'] as const
export const recorders = ['anyone', 'named'] as const
export const openers = ['taken', 'free'] as const
export const closings = ['by hand', 'when all is executed', 'at its end'] as const
export const amenders = ['nobody', 'leads', 'everybody'] as const

/** Why a result of a run that goes on counts as still to be done. */
export const spoilers = ['a changed case', 'another build'] as const

/**
 * The rules a run is executed under, as four sentences say them. A policy never changes: whoever changes a rule makes another one,
 * and an attempt keeps the one it began under.
 */
export const policy = z.object({
  /** `steps`: a failed one fails the item and all passed pass it; `tester`: only a verdict for the whole item does. */
  decides: z.enum(deciders),
  /** Who gives verdicts: anyone who executes, or only the person who is named in the item. */
  records: z.enum(recorders),
  /** What becomes of an item that is nobody's when somebody begins it. */
  opens: z.enum(openers),
  /** What is asked for beside a verdict. */
  asked: z.partialRecord(z.enum(askingVerdicts), z.array(z.enum(askables)).max(askables.length)),
  closes: z.enum(closings),
  /** Who may amend results after the close, for so many days of 24 h. */
  amends: z.enum(amenders),
  amendDays: z.number().int().min(1, 'is at least 1 day').max(365, 'is at most 365 days'),
  /** Only approved versions are executed, also where the project asks for no approval. */
  approvedOnly: z.boolean(),
  /** What makes a result of the run count as still to be done: its case has changed since, the run has another build since. */
  spoiledByCase: z.boolean(),
  spoiledByBuild: z.boolean(),
})
export type Policy = z.infer<typeof policy>

/** Of a project that has said nothing else. */
export const usualPolicy: Policy = {
  decides: 'steps',
  records: 'anyone',
  opens: 'taken',
  asked: {},
  closes: 'by hand',
  amends: 'nobody',
  amendDays: 7,
  approvedOnly: false,
  spoiledByCase: false,
  spoiledByBuild: false,
}

/** Said in one way, so that two policies are the same when their texts are. */
export function policyText(of: Policy): string {
  const asked = askingVerdicts.flatMap((verdict) => {
    const own = askables.filter((each) => of.asked[verdict]?.includes(each))
    return own.length === 0 ? [] : [[verdict, own]]
  })
  const { decides, records, opens, closes, amends, amendDays, approvedOnly, spoiledByCase, spoiledByBuild } = of
  return JSON.stringify({
    decides,
    records,
    opens,
    asked: Object.fromEntries(asked) as Policy['asked'],
    closes,
    amends,
    // Where nobody amends, for how long says nothing.
    amendDays: amends === 'nobody' ? usualPolicy.amendDays : amendDays,
    approvedOnly,
    spoiledByCase,
    spoiledByBuild,
  } satisfies Policy)
}

export const samePolicy = (one: Policy, other: Policy): boolean => policyText(one) === policyText(other)

/** The rules in which two policies differ. */
export function differing(one: Policy, other: Policy): (keyof Policy)[] {
  const [a, b] = [one, other].map((each) => JSON.parse(policyText(each)) as Record<keyof Policy, unknown>)
  return (Object.keys(usualPolicy) as (keyof Policy)[]).filter(
    (rule) => JSON.stringify(a?.[rule]) !== JSON.stringify(b?.[rule]),
  )
}

/** What is known of an attempt that may owe something. */
export interface Given {
  readonly verdict: Verdict
  /** Words at the attempt or at one of its steps. */
  readonly words: boolean
  /** The word of one of the project's reasons. */
  readonly reason: string | null
  readonly evidence: number
  readonly defects: number
  /** Steps that ask for evidence themselves, were judged, and have none. */
  readonly bare?: number
}

/** What is still asked for, in the order it is asked. */
export function owed({ asked }: Pick<Policy, 'asked'>, given: Given): Askable[] {
  const has: Readonly<Record<Askable, boolean>> = {
    'a word': given.words,
    'a reason': given.reason !== null,
    evidence: given.evidence > 0,
    'a defect': given.defects > 0,
  }
  const own = asked[given.verdict as AskingVerdict] ?? []
  const bare = (given.bare ?? 0) > 0
  return askables.filter((each) => (own.includes(each) && !has[each]) || (each === 'evidence' && bare))
}

/** Who would record, and whose it is. */
interface Recording {
  readonly person: string
  readonly assignee: string | null
  /** Who began the attempt, where there is one: what they were named for once stays theirs to finish. */
  readonly begunBy: string | null
}

/** Does the policy let this person give verdicts here? */
export const mayRecord = ({ records }: Pick<Policy, 'records'>, { person, assignee, begunBy }: Recording): boolean =>
  records === 'anyone' || assignee === person || begunBy === person

/** Until when results of a run that was closed may be amended by somebody; `null`: not at all. Instants in milliseconds. */
export function amendableUntil(
  { amends, amendDays }: Pick<Policy, 'amends' | 'amendDays'>,
  { closedAt, lead }: { readonly closedAt: number; readonly lead: boolean },
): number | null {
  if (amends === 'nobody' || (amends === 'leads' && !lead)) return null
  return closedAt + amendDays * 86_400_000
}

const many = (words: readonly string[], last = 'and'): string =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} ${last} ${words.at(-1)}`

/** The four sentences in words, as they stand in histories, on paper and in notices. */
export function policySentences(of: Policy): readonly [string, string, string, string] {
  const asked = askingVerdicts.flatMap((verdict) => {
    const own = of.asked[verdict] ?? []
    return own.length === 0 ? [] : [`on ${verdict} ${many(askables.filter((each) => own.includes(each)))}`]
  })
  const amended = {
    nobody: 'afterwards results stay',
    leads: `afterwards leads may amend results for ${daysText(of.amendDays)}`,
    everybody: `afterwards everybody who executes may amend results for ${daysText(of.amendDays)}`,
  }[of.amends]
  const spoiled = [...(of.spoiledByCase ? ['a changed case'] : []), ...(of.spoiledByBuild ? ['another build'] : [])]
  return [
    of.decides === 'steps'
      ? 'The steps decide: a failed one fails the item, and all passed pass it, at once.'
      : 'The tester decides: what is said of steps is a note, until the whole item has its verdict.',
    `${of.records === 'anyone' ? 'Anyone who executes' : 'Only the named person'} records; a free item ${
      of.opens === 'taken' ? 'becomes that of whoever begins it' : 'stays nobody’s when it is begun'
    }.`,
    asked.length === 0 ? 'Nothing is asked for beside a verdict.' : `Asked for ${many(asked)}; nothing on Passed.`,
    `The run closes ${of.closes === 'at its end' ? 'at the end of its last day' : of.closes}; ${amended}. ${
      of.approvedOnly ? 'Only approved versions are executed' : 'The newest version allowed is executed'
    }; a result is spoiled by ${spoiled.length === 0 ? 'nothing' : many(spoiled, 'or')}.`,
  ]
}

const daysText = (days: number): string => (days === 1 ? 'a day' : `${days} days`)

/** One of the project's reasons for a verdict; a retired one stays with what it was given for. */
export const verdictReason = z.object({
  id: z.number(),
  verdict: finalVerdict,
  word: z.string(),
  retiredAt: z.number().nullable(),
})
export type VerdictReason = z.infer<typeof verdictReason>
