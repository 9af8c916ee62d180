import { counted } from '#core/lib/figures.ts'
import { useTo } from '#ui/shell/here.ts'

/** So many are named. */
const mostNamed = 8

/** Cases that may not be executed yet, named before a run is opened over them and as long as they stand in one. */
export function Unapproved({ of, all = of.length }: { of: readonly string[]; all?: number }) {
  if (all === 0) return null
  return (
    <p role="note">
      {counted(all, 'case')} {all === 1 ? 'has' : 'have'} no approved version and cannot be executed before{' '}
      {all === 1 ? 'it is' : 'they are'} approved: <NamedKeys of={of} all={all} />.
    </p>
  )
}

/** The first of the keys, each leading to what it names, and how many more there are. */
export function NamedKeys({ of, all }: { of: readonly string[]; all: number }) {
  const to = useTo()
  const named = of.slice(0, mostNamed)
  return (
    <>
      {named.map((key, index) => (
        <span key={key}>
          {index > 0 && ', '}
          <a href={to(key)}>{key}</a>
        </span>
      ))}
      {all > named.length && ` and ${all - named.length} more`}
    </>
  )
}
