/** A document as what it says, whatever it is written in. */
export interface Paper {
  readonly title: string
  /** A line below the title. */
  readonly under: string
  readonly blocks: readonly Block[]
}
export type Block =
  | { readonly kind: 'heading'; readonly level: 2 | 3; readonly text: string }
  /** Plain text; its lines stay lines. */
  | { readonly kind: 'text'; readonly text: string }
  /** As a data URL. */
  | { readonly kind: 'picture'; readonly name: string; readonly data: string }
  | {
      readonly kind: 'table'
      /** What each column is called, and how wide it is: `*` takes what is left. */
      readonly columns: readonly { readonly title: string; readonly width: number | 'auto' | '*' }[]
      readonly rows: readonly (readonly string[])[]
    }

/** What would be read as a mark stands for itself. */
const escapedMarkdown = (text: string): string =>
  text.replace(/[\\`*_[\]<>#|]/g, '\\$&').replace(/^(\s*)([-+]|\d+[.)])(?=\s)/, '$1\\$2')

/** A cell stands on one line. */
const cell = (text: string): string => escapedMarkdown(text).replace(/\s*\n\s*/g, '<br>')
const row = (cells: readonly string[]): string => `| ${cells.map(cell).join(' | ')} |`

function written(block: Block): string {
  switch (block.kind) {
    case 'heading':
      return `${'#'.repeat(block.level)} ${escapedMarkdown(block.text)}`
    case 'text':
      return block.text
        .split('\n')
        .map((line) => escapedMarkdown(line))
        .join('  \n')
    case 'picture':
      return `![${escapedMarkdown(block.name)}](${block.data})`
    case 'table':
      return [
        row(block.columns.map(({ title }) => title)),
        `|${block.columns.map(() => ' --- |').join('')}`,
        ...block.rows.map(row),
      ].join('\n')
  }
}

/** A paper as Markdown, its tables as most readers of Markdown know them. */
export const markdownOf = ({ title, under, blocks }: Paper): string =>
  [`# ${escapedMarkdown(title)}`, escapedMarkdown(under), ...blocks.map(written)].join('\n\n') + '\n'
