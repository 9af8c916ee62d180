import { counted } from '#core/lib/figures.ts'
import { useTo } from '#ui/shell/here.ts'

/** So many are named. */
const mostNamed = 8

/** Cases that may not be executed yet, named before a run is opened over them and as long as they stand in one. */
export function Unapproved({ of }: { of: readonly string[] }) {
  const to = useTo()
  if (of.length === 0) return null
  const more = of.length - mostNamed
  return (
    <p role="note">
      {counted(of.length, 'case')} {of.length === 1 ? 'has' : 'have'} no approved version and cannot be executed before{' '}
      {of.length === 1 ? 'it is' : 'they are'} approved:{' '}
      {of.slice(0, mostNamed).map((key, index) => (
        <span key={key}>
          {index > 0 && ', '}
          <a href={to(key)}>{key}</a>
        </span>
      ))}
      {more > 0 && ` and ${more} more`}.
    </p>
  )
}
