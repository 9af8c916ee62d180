import { boundaries, type BoundaryCase } from './boundaries.ts'
import { against, type Asking, type DraftAnswer, type Proposed } from './draft-answer.ts'
import type { DraftRow } from './draft-row.ts'
import type { BoundariesModel } from './models.ts'

const goal = (input: string, value: unknown): string => `${input}=${String(value)}`

interface Values extends Asking {
  readonly caseOf: ReadonlyMap<string, BoundaryCase>
}

/** Each value of each input is to be tried. */
export function boundariesAsked(body: BoundariesModel, answer = boundaries(body)): Values {
  const names = Object.keys(body.inputs)
  const caseOf = new Map(answer.cases.map((each) => [goal(each.input, each.value), each]))
  // An invalid value counts only where it stands alone.
  const goals = (row: DraftRow): string[] | string => {
    const unknown = Object.keys(row).find((name) => !names.includes(name))
    if (unknown) return `there is no input ${unknown} any more`
    const held = names.map((name) => caseOf.get(goal(name, row[name])))
    const bad = held.filter((each) => each?.valid === false)
    return bad.length > 1
      ? []
      : (bad.length === 1 ? bad : held).flatMap((each) => (each ? [goal(each.input, each.value)] : []))
  }
  return { goals, all: new Set(caseOf.keys()), caseOf }
}

export function boundariesDraft(body: BoundariesModel, accepted: readonly DraftRow[]): DraftAnswer {
  const answer = boundaries(body)
  const names = Object.keys(body.inputs)
  const asked = boundariesAsked(body, answer)
  const { caseOf, goals } = asked
  const { standing, answered } = against(accepted, asked)
  const taken = new Set(answered)
  const proposed = answer.rows.flatMap((full): Proposed[] => {
    const row = Object.fromEntries(names.map((name) => [name, String(full[name])]))
    const fresh = [goals(row)].flat().filter((each) => !taken.has(each))
    for (const each of fresh) taken.add(each)
    if (fresh.length === 0) return []
    const held = fresh.map((each) => caseOf.get(each)!)
    const first =
      full['invalid'] === null ? undefined : caseOf.get(goal(String(full['invalid']), full[String(full['invalid'])]))
    return [
      {
        row,
        adds: fresh.length,
        negative: first !== undefined,
        why: (first ? [first] : held).map((each) => `${each.input} ${each.value}: ${each.why}`).join('; '),
        steps: [
          {
            action: `Enter ${names.map((name) => valueText(body, name, row[name]!)).join(', ')}`,
            expected: first
              ? `It is refused: ${first.input} ${first.value} is ${first.partition === null ? 'outside all partitions' : first.partition}`
              : acceptedAs(
                  names.map((name) => caseOf.get(goal(name, row[name]))),
                  names,
                ),
          },
        ],
      },
    ]
  })
  return {
    proposed,
    standing,
    targets: caseOf.size,
    answered: answered.size,
    unit: ['value', 'values'],
    notices: [],
    detail: { technique: 'boundaries', answer },
  }
}

const valueText = (body: BoundariesModel, name: string, value: string): string =>
  `${name} ${value}${body.inputs[name]?.unit ? ` ${body.inputs[name].unit}` : ''}`
const acceptedAs = (held: readonly (BoundaryCase | undefined)[], names: readonly string[]): string =>
  `It is accepted: ${held.map((each, at) => `${names[at]!} as ${each?.partition ?? 'given'}`).join(', ')}`
