import type { SheetRow } from '#core/formats/shapes.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { csvRows, separatorOf } from './read-csv.ts'
import { formatOf } from './read-file.ts'
import { readText } from './read-text.ts'
import { readOds, readXlsx } from './read-workbook.ts'

/** The rows of the first sheet of a workbook, or of a text of separated cells. */
export async function firstTable(bytes: Buffer): Promise<readonly SheetRow[]> {
  const format = await formatOf(bytes)
  if (format === 'xlsx' || format === 'ods') {
    const { sheets } = format === 'xlsx' ? await readXlsx(bytes) : await readOds(bytes)
    return sheets[0]?.rows ?? []
  }
  if (format === 'reqif' || format === 'rovant-archive')
    throw new Refusal('wrong-kind', 'This is no table; bring back the workbook or the CSV that was taken out.')
  const { text } = readText(bytes)
  return csvRows(text, separatorOf(text))
}
