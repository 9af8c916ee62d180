import type { Contract } from '#core/lib/contract.ts'
import { groupBy } from '#core/lib/group.ts'
import { idsIn, type NamedId, owned } from '#core/lib/owned.ts'
import { type FieldProblem, Refusal } from '#core/lib/refusal.ts'
import { foreignAmong } from '#db/projects/owned.ts'
import type { Raw } from './body.ts'
import type { Context } from './context.ts'

/**
 * Every id in a request must be of the project in its address: ids are guesses. The contract says which numbers are ids and of
 * what; one that is not of this project is answered as if it were nowhere.
 */
export function refuseForeignIds(
  { tx, project }: Pick<Context, 'tx' | 'project'>,
  contract: Contract,
  { params, query, body }: Raw,
): void {
  const inPath = [...idsIn(contract.params, params, ['params']), ...idsIn(contract.query, query, ['query'])]
  const named = [...inPath, ...(contract.raw ? [] : idsIn(contract.body, body))]
  const foreign = [...groupBy(named, ({ of }) => of).values()].flatMap((alike) => foreignAmong(tx, project.id, alike))
  const [first] = foreign
  if (!first) return
  const code = foreign.some((each) => inPath.includes(each)) ? 'not-found' : 'invalid'
  throw new Refusal(code, sentenceOf(first, code), { fields: foreign.map(fieldOf) })
}

function sentenceOf({ of, id }: NamedId, code: 'not-found' | 'invalid'): string {
  const what =
    of === 'person' ? 'That person is not one of this project’s' : `There is no ${owned[of]} ${id} in this project`
  return code === 'invalid' ? `${what}; nothing was stored.` : `${what}.`
}

const fieldOf = ({ of, at }: NamedId): FieldProblem => ({
  field: at,
  message: of === 'person' ? 'is not one of this project’s people' : 'is not one of this project',
})
