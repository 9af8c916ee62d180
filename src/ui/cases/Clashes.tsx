import { plainText } from '#core/lib/plain-text.ts'
import { wordDiff } from '#core/lib/word-diff.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Words } from '#ui/kit/Words.tsx'
import { canJoin, type OpenClash, placeName } from './clashes.ts'
import type { Draft } from './draft.ts'
import css from './Steps.module.css'
import type { Joining } from './useWorkingCopy.ts'

/** Where two wrote in one place: both texts word by word, and one is chosen or they are joined. Nothing is stored until then. */
export const Clashes = ({ of: { clashes, choose }, draft }: { of: Joining; draft: Draft }) => (
  <div className={css['clashes']} role="alert">
    <p>
      Somebody else stored other words in {clashes.length === 1 ? 'the same place' : `${clashes.length} places`} while
      you were writing. Choose which stand; all else is together already.
    </p>
    {clashes.map((clash, at) => (
      <ClashLine key={at} of={clash} name={placeName(clash, draft)} onChoose={(choice) => choose(clash, choice)} />
    ))}
  </div>
)

function ClashLine({
  of,
  name,
  onChoose,
}: {
  of: OpenClash
  name: string
  onChoose: (choice: 'mine' | 'theirs' | 'both') => void
}) {
  const [mine, theirs] = [of.mine, of.theirs].map((text) => (text === null ? null : plainText(text)))
  return (
    <div className={css['clash']} role="group" aria-label={`Two texts of ${name.replace(', ', ' ')}`}>
      <b>{name}</b>
      <span>
        <span className="quiet">theirs</span> {textOr(theirs)}
      </span>
      <span>
        <span className="quiet">yours</span>{' '}
        {typeof theirs === 'string' && typeof mine === 'string' ? <Words of={wordDiff(theirs, mine)} /> : textOr(mine)}
      </span>
      <span className={css['clashActs']}>
        <Button onClick={() => onChoose('theirs')}>Take theirs</Button>
        <Button onClick={() => onChoose('mine')}>Keep yours</Button>
        {canJoin(of) && <Button onClick={() => onChoose('both')}>Join both</Button>}
      </span>
    </div>
  )
}

const textOr = (text: string | null | undefined) => {
  if (text === null || text === undefined) return <i>taken away</i>
  return text === '' ? <i>empty</i> : text
}
