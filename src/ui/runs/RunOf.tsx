import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import { orderCases } from '#core/cases/contract.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { notify } from '#ui/kit/notices.tsx'
import { Button } from '#ui/kit/Button.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { dayText, todayIn } from '#ui/kit/moment.ts'
import { scopeIn, scopeNames, useParams } from '#ui/shell/address.ts'
import { useHere } from '#ui/shell/here.ts'
import { buildIn } from './build-in.ts'
import { NewRun, type RunSeed } from './NewRun.tsx'

/** The word and the key that open a run of what is ticked or open. */
export function RunOf({
  seed: given,
  word = 'open a run',
}: {
  /** What it is made of; looked for when it is asked, where that takes a question. */
  seed: RunSeed | (() => Promise<RunSeed>)
  word?: string | null
}) {
  const { project } = useHere()
  const params = useParams(...scopeNames)
  const [seed, setSeed] = useState<RunSeed | null>(null)
  const open = () => {
    if (typeof given !== 'function') return setSeed(given)
    given().then(setSeed, (error: unknown) => notify(sentenceOf(error), { tone: 'problem' }))
  }
  const build = buildIn(project, scopeIn(params))
  const may = project.role === 'lead' && build !== null
  useKeys(may ? [{ id: 'run-of', keys: 'o', label: 'open a run', run: open }] : [])
  if (!may) return null
  return (
    <>
      {word !== null && (
        <Button look="word" onClick={open}>
          {word}
        </Button>
      )}
      {seed && (
        <NewRun
          plan={null}
          seed={seed}
          known={{
            title: `${seed.title.slice(0, 160)}, ${build.name}, ${dayText(todayIn(project))}`,
            build: build.id,
            releaseId: build.release,
          }}
          onClose={() => setSeed(null)}
        />
      )}
    </>
  )
}

/** All that a list of cases shows now: what is typed and filtered, or a saved view. */
export const runOfShown =
  (key: string, params: URLSearchParams): (() => Promise<RunSeed>) =>
  async () => {
    const [text, filter] = [params.get('text') ?? '', params.get('filter') ?? '']
    const asked = { ...(text !== '' && { text }), ...(filter !== '' && { filter }) }
    const scope = filter.includes('"finding"') ? scopeIn(params) : {}
    const { ids } = await call(orderCases, { params: { key }, query: { ...asked, ...scope } })
    return {
      title: text === '' ? counted(ids.length, 'case') : text,
      told: `The ${counted(ids.length, 'case')} shown now, in each environment.`,
      cases: ids,
    }
  }
export const runOfCases = (cases: readonly number[]): RunSeed => ({
  title: counted(cases.length, 'chosen case'),
  told: `The ${counted(cases.length, 'case')} ticked, in each environment.`,
  cases,
})
interface Named {
  readonly id: number
  readonly key: string
  readonly title: string
}
export const runOfSuite = ({ id, key, title }: Named): RunSeed => ({
  title,
  told: `All that is in ${key} now, in each environment.`,
  suites: [id],
})
export function runOfRequirements(all: readonly Named[]): RunSeed {
  const [first] = all
  return {
    title: first ? `${first.title}${all.length > 1 ? ` and ${all.length - 1} more` : ''}` : '',
    told: `Whatever covers ${all.map(({ key }) => key).join(', ')}, in each environment.`,
    requirements: all.map(({ id }) => id),
  }
}
export const runOfDefect = ({ id, key, title }: Named): RunSeed => ({
  title: `${key} ${title}`,
  told: `The cases linked to ${key}, in each environment.`,
  defects: [id],
})
