import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import { Button } from '#ui/kit/Button.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { dayText } from '#ui/kit/moment.ts'
import { scopeIn, scopeNames, useParams } from '#ui/shell/address.ts'
import { useHere } from '#ui/shell/here.ts'
import { buildIn } from './build-in.ts'
import { dayOf, NewRun, type RunSeed } from './NewRun.tsx'

/** The word and the key that open a run of what is ticked or open. */
export function RunOf({ seed, word = 'open a run' }: { seed: RunSeed; word?: string | null }) {
  const { project } = useHere()
  const params = useParams(...scopeNames)
  const [open, setOpen] = useState(false)
  const build = buildIn(project, scopeIn(params))
  const may = project.role === 'lead' && build !== null
  useKeys(may ? [{ id: 'run-of', keys: 'o', label: 'open a run', run: () => setOpen(true) }] : [])
  if (!may) return null
  return (
    <>
      {word !== null && (
        <Button look="word" onClick={() => setOpen(true)}>
          {word}
        </Button>
      )}
      {open && (
        <NewRun
          plan={null}
          seed={seed}
          known={{
            title: `${seed.title.slice(0, 160)}, ${build.name}, ${dayText(dayOf(new Date()))}`,
            build: build.id,
            releaseId: build.release,
          }}
          onClose={() => setOpen(false)}
        />
      )}
    </>
  )
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
