/** `A`, `B` … `Z`, `AA`: how a spreadsheet names its columns, from 0. */
export function columnName(index: number): string {
  const last = String.fromCharCode(65 + (index % 26))
  return index < 26 ? last : columnName(Math.floor(index / 26) - 1) + last
}

/** The other way round: `A` is 0. */
export const columnIndex = (name: string): number =>
  [...name].reduce((sum, letter) => sum * 26 + letter.charCodeAt(0) - 64, 0) - 1
