import excel from 'exceljs'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'

type Table = readonly (readonly string[])[]

/** An Office Open XML workbook of the sheets given; `merges` are ranges of the first. */
export async function xlsxOf(sheets: Readonly<Record<string, Table>>, merges: readonly string[] = []): Promise<Buffer> {
  const book = new excel.Workbook()
  for (const [name, table] of Object.entries(sheets)) book.addWorksheet(name).addRows(table.map((row) => [...row]))
  for (const range of merges) book.worksheets[0]?.mergeCells(range)
  return Buffer.from(await book.xlsx.writeBuffer())
}

type Renaming = (text: string, name: string) => readonly [name: string, text: string]

/** A zip again, with some of its parts written and named otherwise. */
export const rezipped = (bytes: Buffer, parts: Readonly<Record<string, Renaming>>): Buffer =>
  Buffer.from(
    zipSync(
      Object.fromEntries(
        Object.entries(unzipSync(bytes)).map(([name, part]) => {
          const renaming = parts[name]
          if (!renaming) return [name, part]
          const [other, text] = renaming(strFromU8(part), name)
          return [other, strToU8(text)]
        }),
      ),
    ),
  )

const escape = (text: string): string => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;')

/** An OpenDocument spreadsheet with one sheet of the rows given as their XML, or as texts. */
export function odsOf(name: string, rows: string | Table): Buffer {
  const body =
    typeof rows === 'string'
      ? rows
      : rows
          .map(
            (row) =>
              `<table:table-row>${row
                .map(
                  (text) =>
                    `<table:table-cell office:value-type="string">${text
                      .split('\n')
                      .map((line) => `<text:p>${escape(line)}</text:p>`)
                      .join('')}</table:table-cell>`,
                )
                .join('')}</table:table-row>`,
          )
          .join('')
  const space = 'urn:oasis:names:tc:opendocument:xmlns'
  const spaces = ['office', 'table', 'text'].map((name) => `xmlns:${name}="${space}:${name}:1.0"`).join(' ')
  const table = `<table:table table:name="${name}">${body}</table:table>`
  const sheet = `<office:body><office:spreadsheet>${table}</office:spreadsheet></office:body>`
  const content = `<?xml version="1.0"?><office:document-content ${spaces}>${sheet}</office:document-content>`
  return Buffer.from(
    zipSync({ mimetype: strToU8('application/vnd.oasis.opendocument.spreadsheet'), 'content.xml': strToU8(content) }),
  )
}
