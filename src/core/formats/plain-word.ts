/**
 * A header or word as it is compared: without case, width, accents, marks, what stands in brackets (units, hints) and a number
 * before or behind it (`3. Schritt`); `ß` is `ss`. Letters of scripts without accents stay as they are.
 */
export function plainly(text: string): string {
  const folded = text.normalize('NFKC').toLowerCase().replaceAll('ß', 'ss').replaceAll('ł', 'l').replaceAll('ø', 'o')
  // A bracket that opens within one begins anew, so that a row of them is gone through once.
  const bare = folded.replace(/[([{【（〔][^([{【（〔)\]}】）〕]*[)\]}】）〕]/gu, ' ')
  const words = (bare.trim() === '' ? folded : bare)
    .normalize('NFD')
    // Marks on Latin letters are accents; on kana and hangul they are part of the letter.
    .replace(/(?<=[a-z])\p{M}+/gu, '')
    .normalize('NFC')
    .replace(/[#№]/gu, ' no ')
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()
  return withoutNumbers(words.split(' ')).join(' ')
}

const isNumber = (word: string | undefined): boolean => word !== undefined && /^\d{1,3}$/.test(word)

/** Without short numbers before the first word, where it begins with a letter, and behind the last. */
function withoutNumbers(words: readonly string[]): readonly string[] {
  const first = words.findIndex((word) => !isNumber(word))
  const start = /^\p{L}/u.test(words[first] ?? '') ? first : 0
  let end = words.length
  while (end > start + 1 && isNumber(words[end - 1])) end--
  return words.slice(start, end)
}
