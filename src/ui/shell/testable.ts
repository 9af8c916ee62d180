import { nextTestable } from '#core/finding/testable.ts'
import { filterIn } from '#core/lib/filter.ts'
import { notify } from '#ui/kit/notices.tsx'
import { go, useParams } from './address.ts'
import { useHere } from './here.ts'

/** One key in lists of requirements and cases: what can be tested in the first iteration, the next, …, the release; and all again. */
export function useTestable() {
  const { project } = useHere()
  const params = useParams('release', 'iteration', 'filter')
  const run = () => {
    const named = params.get('release')
    const release =
      project.releases.find(({ name }) => name === named) ??
      project.releases.find(({ state }) => state === 'In test') ??
      project.releases.at(-1)
    const iterations = project.iterations.filter((each) => each.release === release?.id).map(({ name }) => name)
    const next = nextTestable(
      { iteration: params.get('iteration'), filter: filterIn(params.get('filter')) },
      iterations,
    )
    go({
      params: { iteration: next.iteration, filter: next.filter === null ? null : JSON.stringify(next.filter) },
    })
    notify(next.says)
  }
  return { id: 'testable', keys: 'i', hint: 'testable when', run }
}
