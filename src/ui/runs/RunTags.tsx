import { counted } from '#core/lib/figures.ts'
import type { RunSheet } from '#core/runs/contract.ts'
import { tagRuns } from '#core/runs/shape-contract.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { ManyTags } from '#ui/shell/ManyFields.tsx'
import { Tags } from '#ui/shell/OwnFields.tsx'

interface Tagged {
  readonly add?: string[]
  readonly drop?: string[]
}

/** Tags of runs, told with the way back. */
function useTagging() {
  const { key } = useHere()
  const { attempt } = useWrite(tagRuns)
  return async (ids: readonly number[], tags: Tagged) => {
    const done = await attempt({ params: { key }, body: { ids: [...ids], ...tags } })
    if (!done) return
    if (done.changed === 0) return notify('They are tagged so already.')
    notify(`${counted(done.changed, 'run')} tagged anew.`, {
      undo: () => {
        for (const part of done.undo) void attempt({ params: { key }, body: part })
      },
    })
  }
}

export function RunTags({ of }: { of: RunSheet }) {
  const { project } = useHere()
  const tag = useTagging()
  if (project.role !== 'lead') return of.tags.length === 0 ? null : <p>Tags: {of.tags.join(', ')}</p>
  const set = (tags: readonly string[]) =>
    void tag([of.id], {
      add: tags.filter((each) => !of.tags.includes(each)),
      drop: of.tags.filter((each) => !tags.includes(each)),
    })
  return (
    <p>
      Tags <Tags tags={of.tags} onSet={set} />
    </p>
  )
}

/** Tags put on ticked runs, or taken from them. */
export function TagsOfRuns({ ids }: { ids: readonly number[] }) {
  const tag = useTagging()
  return <ManyTags onTags={({ add = [], drop = [] }) => void tag(ids, { add: [...add], drop: [...drop] })} />
}
