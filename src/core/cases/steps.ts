/** A step that stands for the steps of a version of a routine or of another case. `ref` and `name` tell which, as people know it. */
export interface StepUse {
  readonly kind: 'routine' | 'case'
  readonly version: number
  readonly ref: string
  readonly name: string
  /** Values for the parameters of what is inserted; they may name parameters of the case itself. */
  readonly values: Readonly<Record<string, string>>
}

/** A step as written. `id` is its identity over versions; `null` before it is stored. A step with `use` has the title of what it inserts as its action. */
export interface StepText {
  readonly id: number | null
  readonly action: string
  readonly expected: string
  readonly data: string
  readonly use?: StepUse | undefined
  /** Its verdict asks for a picture or a file of what was seen. */
  readonly evidence?: true | undefined
}

/** A step with each of its texts changed in the same way. */
export const withTexts = (
  { action, expected, data, ...rest }: StepText,
  change: (text: string) => string,
): StepText => ({ ...rest, action: change(action), expected: change(expected), data: change(data) })

export interface VersionContent {
  readonly preconditions: string
  readonly steps: readonly StepText[]
  readonly parameters: readonly string[]
  /** Values by parameter name, a record per data row. */
  readonly rows: readonly Readonly<Record<string, string>>[]
  /** Keys of the cases that must have run before. */
  readonly needs?: readonly string[] | undefined
  /** Name of the one environment it makes sense in; empty or absent: any. */
  readonly environment?: string | undefined
  readonly table?: TableUse | undefined
}

/** The data table the rows come from: `each` row is executed, or an attempt takes `one` that nobody else holds. */
interface TableUse {
  readonly id: number
  readonly name: string
  readonly mode: 'each' | 'one'
}

export const emptyContent: VersionContent = { preconditions: '', steps: [], parameters: [], rows: [] }

/**
 * What a version says, as one text: two versions with the same text are the same version. Identity of steps
 * is left out, so that retyping a step word for word changes nothing.
 */
export function fingerprintText(content: VersionContent): string {
  const steps = content.steps.map(({ action, expected, data, use, evidence }) =>
    use
      ? [
          use.ref,
          use.name,
          Object.entries(use.values)
            .filter(([, value]) => value !== '')
            .sort(([a], [b]) => (a < b ? -1 : 1)),
        ]
      : [action.trim(), expected.trim(), data.trim(), ...(evidence ? ['evidence'] : [])],
  )
  const rows = content.rows.map((row) => content.parameters.map((name) => (row[name] ?? '').trim()))
  const { needs = [], environment = '', table } = content
  // Only what is there is named, so that a version that says nothing of it keeps the fingerprint it always had.
  const setting =
    needs.length > 0 || environment !== '' || table
      ? [[[...needs].sort(), environment, table ? [table.name, table.mode] : null]]
      : []
  return JSON.stringify([content.preconditions.trim(), steps, content.parameters, rows, ...setting])
}

/** Names in `{braces}`, in order of first use. */
export function parametersIn(content: Pick<VersionContent, 'preconditions' | 'steps'>): string[] {
  const texts = [
    content.preconditions,
    ...content.steps.flatMap(({ action, expected, data, use }) =>
      use ? Object.values(use.values) : [action, expected, data],
    ),
  ]
  return [...new Set(texts.flatMap((text) => Array.from(text.matchAll(placeholder), (match) => match[1] ?? '')))]
}

const placeholder = /\{([\p{L}_](?:[\p{L}\p{N}_ -]{0,38}[\p{L}\p{N}_-])?)\}/gu

/** Replaces `{name}` by the row's value; a name with no value stays as it is, so that the gap is seen. */
export const withValues = (text: string, values: Readonly<Record<string, string>>): string =>
  text.replace(placeholder, (whole, name: string) => (Object.hasOwn(values, name) ? (values[name] ?? whole) : whole))

/** What stands before and after the first arrow of a line; later arrows belong to what is expected. */
export function arrowParts(line: string, between = /\s*(?:=>|⇒|→)\s*/): [action: string, expected: string] {
  const arrow = between.exec(line)
  return arrow ? [line.slice(0, arrow.index), line.slice(arrow.index + arrow[0].length)] : [line, '']
}

/**
 * Reads typed or pasted lines as steps: cells keep their columns (action, expected, data), a line may say
 * `action => expected`, and list marks in front are dropped.
 */
export function stepLines(text: string): StepText[] {
  return splitCells(text).flatMap((cells) => {
    const [first = '', second, third] = cells.map((cell) => cell.trim())
    const [action, expected] = second === undefined ? arrowParts(first) : [first, second]
    const plain = action.replace(/^([-*•]|\d{1,3}[.)])\s+/, '')
    return plain === '' && expected === '' ? [] : [{ id: null, action: plain, expected, data: third ?? '' }]
  })
}

/** Tab-separated cells as a spreadsheet puts them on the clipboard: quoted cells may hold line breaks and doubled quotes. */
export function splitCells(text: string): string[][] {
  if (!text.includes('\t')) return text.split(/\r?\n/).map((line) => [line])
  const pattern = /(?:"((?:[^"]|"")*)"|([^\t\r\n]*))(\t|\r?\n|$)/gy
  const rows: string[][] = [[]]
  for (let match = pattern.exec(text); match; match = pattern.exec(text)) {
    rows.at(-1)?.push(match[1] === undefined ? (match[2] ?? '') : match[1].replaceAll('""', '"'))
    if (pattern.lastIndex >= text.length) {
      // A Tab at the very end still has an empty cell behind it.
      if (match[3] === '\t') rows.at(-1)?.push('')
      break
    }
    if (match[3] !== '\t') rows.push([])
  }
  return rows
}

/** `0.3`, `2.0`: minor versions are cut while editing, whole ones by approval. */
export const versionName = (major: number, minor: number): string => `${major}.${minor}`
