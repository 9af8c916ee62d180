import { type FinalVerdict, finalVerdicts, inWord, type OwnVerdict, plainly, type Said } from '#core/lib/verdict.ts'

/** A verdict that can be given at the desk, with the key that gives it. */
export interface Sayable {
  readonly key: string
  /** As it is called here. */
  readonly label: string
  /** What it counts as. */
  readonly verdict: FinalVerdict
  /** The project's own word. */
  readonly word: string | null
  readonly said: Said
}

const letters: Readonly<Record<FinalVerdict, string>> = {
  Passed: 'p',
  Failed: 'f',
  Blocked: 'b',
  Skipped: 's',
  Inconclusive: 'i',
}

/** One of the five. */
export const sayPlainly = (verdict: FinalVerdict): Sayable => ({
  key: letters[verdict],
  label: verdict,
  verdict,
  word: null,
  said: plainly(verdict),
})

/** The five by their letters, and what the project says beside them by digits: one digit for a word, of whatever it is said. */
export function sayables(kinds: readonly OwnVerdict[], about: 'forSteps' | 'forItems'): Sayable[] {
  const inUse = kinds.filter(({ retiredAt }) => retiredAt === null).slice(0, 9)
  return [
    ...finalVerdicts.map(sayPlainly),
    ...inUse.flatMap((kind, at) =>
      kind[about]
        ? [{ key: String(at + 1), label: kind.word, verdict: kind.countsAs, word: kind.word, said: inWord(kind) }]
        : [],
    ),
  ]
}
