/**
 * Data rows as the text of one cell: the names on the first line, a row on each further one, values between bars. A bar,
 * a backslash or a line break within a value is written `\|`, `\\`, `\n`.
 */
export function writeRows(parameters: readonly string[], rows: readonly Readonly<Record<string, string>>[]): string {
  if (rows.length === 0) return ''
  const line = (values: readonly string[]) =>
    values.map((value) => value.replaceAll('\\', '\\\\').replaceAll('|', '\\|').replaceAll('\n', '\\n')).join(' | ')
  return [line(parameters), ...rows.map((row) => line(parameters.map((name) => row[name] ?? '')))].join('\n')
}

/** The other way round; a sentence when the text is no such rows. */
export function readRows(text: string): Record<string, string>[] | string {
  if (text.trim() === '') return []
  const [names, ...rows] = text.split(/\r?\n/).map(cellsOf)
  if (!names || names.some((name) => !parameterName.test(name)))
    return 'the first line of data rows must name the parameters, with bars between them'
  const wide = rows.findIndex((row) => row.length > names.length)
  if (wide >= 0) return `data row ${wide + 1} has ${rows[wide]?.length ?? 0} values for ${names.length} parameters`
  return rows.map((row) => Object.fromEntries(names.map((name, index) => [name, row[index] ?? ''])))
}

const parameterName = /^[\p{L}_][\p{L}\p{N}_ -]{0,39}$/u

function cellsOf(line: string): string[] {
  const cells = ['']
  for (let at = 0; at < line.length; at++) {
    const mark = line[at] ?? ''
    const next = line[at + 1]
    if (mark === '\\' && next !== undefined) {
      cells[cells.length - 1] += next === 'n' ? '\n' : next
      at++
    } else if (mark === '|') cells.push('')
    else cells[cells.length - 1] += mark
  }
  return cells.map((cell) => cell.replace(/^ +| +$/g, ''))
}
