import { Mark } from '#ui/kit/Mark.tsx'
import { useHere } from './here.ts'

/** A verdict in the word it was given in: the mark of what it counts as, with the sign of the project's own word. */
export function SaidMark({
  verdict,
  word,
  stale,
  size,
  label,
}: {
  verdict: string
  word: string | null
  stale?: boolean
  size?: number
  label?: string | false
}) {
  const { project } = useHere()
  const own = word === null ? undefined : project.verdictKinds.find((each) => each.word === word)
  return (
    <Mark
      verdict={verdict}
      own={own}
      label={label ?? (word === null ? verdict : `${word}, ${verdict}`)}
      {...(stale !== undefined && { stale })}
      {...(size !== undefined && { size })}
    />
  )
}
