import { createLinks, endLinks } from '#core/cases/link-contract.ts'
import type { BodyOf } from '#core/lib/contract.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from './answers.tsx'
import { useGoing } from './going.ts'
import { useHere } from './here.ts'
import { howMany, withWhy } from './many.ts'

/** Links requirements and cases, by key or by id; says how many of how many were made, and takes those back again. Answers whether it was done. */
export function useLinking(): (body: BodyOf<typeof createLinks>) => Promise<boolean> {
  const { key } = useHere()
  const linking = useWrite(createLinks)
  const ending = useWrite(endLinks)
  const going = useGoing()
  const back = async (ids: number[]) => {
    const done = await going('Unlinking …', (job) => ending.attempt({ params: { key }, body: { ids }, job }))
    if (done?.stopped !== undefined) notify(done.stopped)
  }
  return async (body) => {
    const done = await going('Linking …', (job) => linking.attempt({ params: { key }, body, job }))
    if (!done) return false
    const { made, of, links, stopped } = done
    const [requirement, own] = [body.requirements?.[0], body.cases?.[0]]
    const one = of === 1 && requirement !== undefined && own !== undefined
    if (made === 0 && stopped === undefined)
      notify(one ? `${requirement} and ${own} are linked already.` : `All ${of} links stand already.`)
    else
      notify(
        one
          ? `${own} is linked to ${requirement}.`
          : withWhy(`${howMany(made, of, 'link')} made${made < of ? '; the others stood already' : ''}.`, stopped),
        { undo: () => void back(links) },
      )
    return true
  }
}
