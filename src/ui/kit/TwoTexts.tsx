import type { ReactNode } from 'react'
import { wordDiff } from '#core/lib/word-diff.ts'
import { Button } from './Button.tsx'
import css from './TwoTexts.module.css'
import { Words } from './Words.tsx'

/** What two wrote in one place; `null` where one took it away. */
interface Both {
  readonly name: string
  readonly mine: string | null
  readonly theirs: string | null
}
type Choice = 'mine' | 'theirs' | 'both'

/** Where two wrote at once, each place with both texts. Nothing of it is stored until one is chosen. */
export const TwoTexts = ({ said, children }: { said: string; children: ReactNode }) => (
  <div className={css['clashes']} role="alert">
    <p>{said}</p>
    {children}
  </div>
)

/** Both texts of a place, word by word; one is chosen, or they are joined where that makes sense. */
export function TwoTextsOf<C extends Choice>({
  of: { name, mine, theirs },
  choices,
  onChoose,
}: {
  of: Both
  choices: readonly C[]
  onChoose: (choice: C) => void
}) {
  return (
    <div className={css['clash']} role="group" aria-label={`Two texts of ${name.replace(', ', ' ')}`}>
      <b>{name}</b>
      <span>
        <span className="quiet">theirs</span> {textOr(theirs)}
      </span>
      <span>
        <span className="quiet">yours</span>{' '}
        {theirs !== null && mine !== null ? <Words of={ownWords(theirs, mine)} /> : textOr(mine)}
      </span>
      <span className={css['acts']}>
        {choices.map((choice) => (
          <Button key={choice} onClick={() => onChoose(choice)}>
            {choiceNames[choice]}
          </Button>
        ))}
      </span>
    </div>
  )
}

/** My text whole, with what theirs does not say underlined. */
const ownWords = (theirs: string, mine: string) => wordDiff(theirs, mine).filter(({ kind }) => kind !== 'removed')

const choiceNames: Readonly<Record<Choice, string>> = {
  theirs: 'Take theirs',
  mine: 'Keep yours',
  both: 'Join both',
}

const textOr = (text: string | null) => {
  if (text === null) return <i>taken away</i>
  return text === '' ? <i>empty</i> : text
}
