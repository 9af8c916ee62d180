/** Encodings a text file may be read in, by their usual names; a file names none, so it is guessed or said. */
export const encodings = [
  'UTF-8',
  'UTF-16LE',
  'UTF-16BE',
  'Windows-1252',
  'Windows-1250',
  'ISO-8859-2',
  'Windows-1251',
  'KOI8-R',
  'Windows-1253',
  'Windows-1254',
  'Windows-1257',
  'Shift_JIS',
  'EUC-JP',
  'GB18030',
  'Big5',
  'EUC-KR',
] as const
export type Encoding = (typeof encodings)[number]
