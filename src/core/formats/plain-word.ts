/**
 * A header or word as it is compared: without case, width, accents, marks, what stands in brackets (units, hints) and a number
 * before or behind it (`3. Schritt`); `ß` is `ss`. Letters of scripts without accents stay as they are.
 */
export function plainly(text: string): string {
  const folded = text.normalize('NFKC').toLowerCase().replaceAll('ß', 'ss').replaceAll('ł', 'l').replaceAll('ø', 'o')
  const bare = folded.replace(/[([{【（〔][^)\]}】）〕]*[)\]}】）〕]/gu, ' ')
  const words = (bare.trim() === '' ? folded : bare)
    .normalize('NFD')
    // Marks on Latin letters are accents; on kana and hangul they are part of the letter.
    .replace(/(?<=[a-z])\p{M}+/gu, '')
    .normalize('NFC')
    .replace(/[#№]/gu, ' no ')
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()
  return words.replace(/^(?:\d{1,3} )+(?=\p{L})/u, '').replace(/(?: \d{1,3})+$/u, '')
}
