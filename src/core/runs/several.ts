import { isFinal, rollUp, type Verdict } from '#core/lib/verdict.ts'

// An item that several people judge, each for themselves.

export interface Several {
  /** So many people give their verdict. */
  readonly people: number
  /** It passes when so many of them pass it. */
  readonly passes: number
}

/** What one of them last said. */
export interface Voice {
  readonly person: string | null
  readonly verdict: Verdict
}

export const isSeveral = ({ people }: Pick<Several, 'people'>): boolean => people > 1

/** Why an item cannot be judged so; `null`: it can. */
export function severalProblem({ people, passes }: Several): string | null {
  if (passes > people) return `${passes} cannot pass where ${people} give their verdict.`
  return null
}

/**
 * What their verdicts make of it: Passed as soon as enough of them pass it; as soon as that many cannot any more, the worst of
 * what the others said; In progress until then. Skipped is no verdict of whoever skipped it.
 * @param said the newest final verdict of each person; those who have said nothing are left out
 */
export function verdictOfSeveral(
  said: readonly Verdict[],
  { people, passes }: Several,
  begun = said.length > 0,
): Verdict {
  const final = said.filter((verdict) => isFinal(verdict) && verdict !== 'Skipped')
  const passed = final.filter((verdict) => verdict === 'Passed').length
  if (passed >= passes) return 'Passed'
  const others = final.filter((verdict) => verdict !== 'Passed')
  if (people - others.length < passes) return rollUp(others) ?? 'In progress'
  if (final.length === 0 && said.length > 0 && said.every((verdict) => verdict === 'Skipped') && said.length >= people)
    return 'Skipped'
  return begun ? 'In progress' : 'Not run'
}

/** Whether those who have said something do not say the same. */
export const disagree = (said: readonly Voice[]): boolean =>
  new Set(said.flatMap(({ verdict }) => (isFinal(verdict) && verdict !== 'Skipped' ? [verdict] : []))).size > 1

/** In the words of a row: `2 of 3 have said: Mira Passed, Tobin Failed; they do not agree`. */
export function severalWords({ people, passes }: Several, said: readonly Voice[]): string {
  const told = said.filter(({ verdict }) => isFinal(verdict))
  const each = told.map(({ person, verdict }) => `${person ?? 'a machine'} ${verdict}`).join(', ')
  return [
    `${passes} of ${people} testers must pass it`,
    ...(told.length === 0 ? [] : [each]),
    ...(disagree(said) ? ['they do not agree'] : []),
  ].join('; ')
}
