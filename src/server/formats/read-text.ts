import { Refusal } from '#core/lib/refusal.ts'

export interface TextRead {
  readonly text: string
  readonly encoding: string
}

/** UTF-16 by its mark, else UTF-8 where it is valid, else Windows-1252; bytes that are no text are refused. */
export function readText(bytes: Buffer): TextRead {
  if (bytes[0] === 0xff && bytes[1] === 0xfe)
    return { text: new TextDecoder('utf-16le').decode(bytes), encoding: 'UTF-16' }
  if (bytes[0] === 0xfe && bytes[1] === 0xff)
    return { text: new TextDecoder('utf-16be').decode(bytes), encoding: 'UTF-16' }
  if (bytes.subarray(0, 4096).includes(0))
    throw new Refusal(
      'wrong-kind',
      'This is not a text file (it holds zero bytes). Save it as CSV in UTF-8, or give a workbook, and try again.',
    )
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), encoding: 'UTF-8' }
  } catch {
    return { text: new TextDecoder('windows-1252').decode(bytes), encoding: 'Windows-1252' }
  }
}
