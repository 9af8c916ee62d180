import { analyse } from 'chardet'
import iconv from 'iconv-lite'
import { type Encoding, encodings } from '#core/formats/encodings.ts'
import { Refusal } from '#core/lib/refusal.ts'

export interface TextRead {
  readonly text: string
  readonly encoding: Encoding
  /** Another encoding it may be as well, where the letters do not settle it. */
  readonly perhaps: Encoding | null
}

/** So many bytes tell the encoding. */
const lookedAt = 200_000
/** A second guess this near to the first is one. */
const nearly = 0.6

/**
 * A text by its mark, else as UTF-8 where it is valid, else as UTF-16 or in what its letters suggest; or as it is said to be. Bytes that
 * are no text are refused. This Node decodes Windows-1252 as Latin-1, so the decoding is iconv-lite's.
 */
export function readText(bytes: Buffer, said: Encoding | null = null): TextRead {
  const sure = said ?? markOf(bytes) ?? (isUtf8(bytes) ? 'UTF-8' : null)
  if (sure) return { text: iconv.decode(bytes, sure), encoding: sure, perhaps: null }
  const head = bytes.subarray(0, lookedAt)
  if (head.includes(0)) {
    const wide = (['UTF-16LE', 'UTF-16BE'] as const).find((each) => isWritten(iconv.decode(head, each)))
    if (!wide)
      throw new Refusal(
        'wrong-kind',
        'This is not a text file (it holds zero bytes). Save it as CSV in UTF-8, or give a workbook, and try again.',
      )
    return { text: iconv.decode(bytes, wide), encoding: wide, perhaps: null }
  }
  const [encoding, perhaps] = guesses(head)
  return { text: iconv.decode(bytes, encoding), encoding, perhaps: perhaps ?? null }
}

function markOf(bytes: Buffer): Encoding | null {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'UTF-16LE'
  return bytes[0] === 0xfe && bytes[1] === 0xff ? 'UTF-16BE' : null
}

function isUtf8(bytes: Buffer): boolean {
  if (bytes.subarray(0, lookedAt).includes(0)) return false
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes)
    return true
  } catch {
    return false
  }
}

/** Letters, numbers, marks and white space only: read with its bytes the wrong way round, a line break is no sign at all. */
const isWritten = (text: string): boolean => /^[\p{L}\p{N}\p{P}\p{S}\p{Z}\p{M}\t\r\n\ufeff]*$/u.test(text)

/** The most likely encoding, and others nearly as likely. Signs that Latin-1 leaves to controls make it Windows-1252. */
function guesses(head: Buffer): [Encoding, ...Encoding[]] {
  const found = analyse(head).flatMap(({ name, confidence }) => {
    const own = named(name)
    return own ? [{ own, confidence }] : []
  })
  const best = found[0]
  if (!best) return ['Windows-1252']
  const near = found.filter(({ confidence }) => confidence >= best.confidence * nearly).map(({ own }) => own)
  return [best.own, ...new Set(near.filter((own) => own !== best.own))]
}

const aliases: Readonly<Record<string, Encoding>> = { 'ISO-8859-1': 'Windows-1252', 'ISO-8859-9': 'Windows-1254' }
const named = (name: string): Encoding | undefined =>
  aliases[name] ?? encodings.find((each) => each.toLowerCase() === name.toLowerCase())
