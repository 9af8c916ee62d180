import { plainText } from '#core/lib/plain-text.ts'
import { TwoTexts, TwoTextsOf } from '#ui/kit/TwoTexts.tsx'
import { canJoin, placeName } from './clashes.ts'
import type { Draft } from './draft.ts'
import type { Joining } from './useWorkingCopy.ts'

const plain = (text: string | null): string | null => (text === null ? null : plainText(text))

/** Where two wrote in one place of a case. */
export const Clashes = ({ of: { clashes, choose }, draft }: { of: Joining; draft: Draft }) => (
  <TwoTexts
    said={`Somebody else stored other words in ${clashes.length === 1 ? 'the same place' : `${clashes.length} places`} while you were writing. Choose which stand; all else is together already.`}
  >
    {clashes.map((clash, at) => (
      <TwoTextsOf
        key={at}
        of={{ name: placeName(clash, draft), mine: plain(clash.mine), theirs: plain(clash.theirs) }}
        choices={canJoin(clash) ? ['theirs', 'mine', 'both'] : ['theirs', 'mine']}
        onChoose={(choice) => choose(clash, choice)}
      />
    ))}
  </TwoTexts>
)
