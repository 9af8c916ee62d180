import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces'
import type { CaseRead, RequirementRead } from '#core/formats/shapes.ts'
import type { Block, Paper } from '#core/lib/paper.ts'
import { plainText } from '#core/lib/plain-text.ts'

interface About {
  readonly title: string
  readonly now: number
  readonly timeZone: string
}

const quiet = '#5a6572'
const rule = '#c9d0d6'

function page(about: About, count: string, content: Content[]): TDocumentDefinitions {
  const day = new Intl.DateTimeFormat('en-GB', {
    timeZone: about.timeZone,
    dateStyle: 'long',
    timeStyle: 'short',
  }).format(about.now)
  return {
    pageSize: 'A4',
    pageMargins: [48, 56, 48, 56],
    info: { title: about.title },
    defaultStyle: { font: 'Roboto', fontSize: 9.5, lineHeight: 1.2 },
    footer: (current, pages) => ({
      columns: [
        { text: about.title, color: quiet },
        { text: `${current} of ${pages}`, alignment: 'right', color: quiet },
      ],
      margin: [48, 16, 48, 0],
      fontSize: 8,
    }),
    // A heading goes with what is below it: at the foot of a page there is no room for that.
    pageBreakBefore: ({ headlineLevel, startPosition }) =>
      headlineLevel !== undefined && startPosition.verticalRatio > 0.87,
    content: [
      { text: about.title, fontSize: 18, bold: true },
      { text: `${count}, as of ${day}`, color: quiet, margin: [0, 2, 0, 16] },
      ...content,
    ],
  }
}

const lines = (text: string): string => plainText(text)
const told = (parts: readonly string[]): string => parts.filter((part) => part !== '').join(' · ')

/** Test cases to read and execute on paper: a table of steps each, with room for what happened. */
export function casesDocument(cases: readonly CaseRead[], about: About): TDocumentDefinitions {
  const content = cases.map((of): Content => ({
    margin: [0, 0, 0, 18],
    stack: [
      {
        text: [
          { text: `${of.id}  `, color: quiet },
          { text: of.title, bold: true },
        ],
        fontSize: 12,
      },
      {
        text: told([
          of.folder.join(' / '),
          of.importance,
          of.type,
          of.component,
          of.estimate === null ? '' : `${of.estimate} min`,
          of.requirements.join(', '),
          ...of.tags,
        ]),
        color: quiet,
        margin: [0, 1, 0, 4],
      },
      ...(of.objective === ''
        ? []
        : [{ text: lines(of.objective), margin: [0, 0, 0, 4] as [number, number, number, number] }]),
      ...(of.preconditions === ''
        ? []
        : [
            {
              text: [{ text: 'Before: ', bold: true }, lines(of.preconditions)],
              margin: [0, 0, 0, 4] as [number, number, number, number],
            },
          ]),
      ...(of.steps.length === 0
        ? [{ text: 'No steps are written yet.', italics: true, color: quiet }]
        : [stepTable(of)]),
      ...(of.rows.length === 0 ? [] : [rowTable(of)]),
    ],
  }))
  return page(about, `${cases.length} cases`, content)
}

const layout = {
  hLineWidth: () => 0.5,
  vLineWidth: () => 0,
  hLineColor: () => rule,
  paddingLeft: () => 4,
  paddingRight: () => 4,
}

const stepTable = (of: CaseRead): Content => ({
  layout,
  table: {
    headerRows: 1,
    dontBreakRows: true,
    widths: [16, '*', '*', 80, 70],
    body: [
      ['', 'Action', 'Expected', 'Data', 'Happened'].map((text) => ({ text, bold: true, color: quiet })),
      ...of.steps.map(({ action, expected, data }, index) => [
        String(index + 1),
        lines(action),
        lines(expected),
        lines(data),
        '',
      ]),
    ],
  },
})

const rowTable = (of: CaseRead): Content => ({
  margin: [0, 6, 0, 0],
  layout,
  table: {
    headerRows: 1,
    widths: of.parameters.map(() => 'auto'),
    body: [
      of.parameters.map((text) => ({ text, bold: true, color: quiet })),
      ...of.rows.map((row) => of.parameters.map((name) => row[name] ?? '')),
    ],
  },
})

/** Requirements in outline order, with their depth as indent. */
export function requirementsDocument(requirements: readonly RequirementRead[], about: About): TDocumentDefinitions {
  const depths: number[] = []
  requirements.forEach(({ parent }, index) => {
    depths[index] = typeof parent === 'number' ? (depths[parent] ?? 0) + 1 : 0
  })
  const content = requirements.map((of, index): Content => {
    const depth = Math.min(6, depths[index] ?? 0)
    return {
      margin: [depth * 12, 0, 0, 8],
      stack: [
        {
          text: [
            { text: `${of.id}  `, color: quiet },
            { text: of.title, bold: true },
          ],
          fontSize: depth === 0 ? 12 : 10,
        },
        {
          text: told([
            of.kind,
            of.state,
            of.component,
            of.likelihood === null || of.impact === null
              ? 'risk not given'
              : `risk ${of.likelihood} × ${of.impact} = ${of.likelihood * of.impact}`,
            of.priority === null ? '' : `priority ${of.priority}`,
            of.release,
            of.iteration,
            of.reference,
            ...of.tags,
          ]),
          color: quiet,
          fontSize: 8.5,
        },
        ...(of.text === '' ? [] : [{ text: lines(of.text), margin: [0, 2, 0, 0] as [number, number, number, number] }]),
      ],
    }
  })
  return page(about, `${requirements.length} requirements`, content)
}

/** A paper by its blocks: headings, text, tables. */
export const paperDocument = ({ title, under, blocks }: Paper, about: Omit<About, 'title'>): TDocumentDefinitions =>
  page({ ...about, title }, under, blocks.map(blockContent))

function blockContent(block: Block): Content {
  switch (block.kind) {
    case 'heading':
      return {
        text: block.text,
        fontSize: block.level === 2 ? 14 : 10.5,
        bold: true,
        margin: block.level === 2 ? [0, 14, 0, 4] : [0, 8, 0, 3],
        headlineLevel: block.level,
      }
    case 'text':
      return { text: block.text, margin: [0, 0, 0, 4] }
    case 'picture':
      return {
        stack: [
          { image: block.data, fit: [360, 240] },
          { text: block.name, color: quiet, fontSize: 8, margin: [0, 1, 0, 6] },
        ],
        unbreakable: true,
      }
    case 'table':
      return {
        layout,
        margin: [0, 0, 0, 8],
        table: {
          headerRows: 1,
          keepWithHeaderRows: 1,
          dontBreakRows: true,
          widths: block.columns.map(({ width }) => width),
          body: [
            block.columns.map((column) => ({ text: column.title, bold: true, color: quiet })),
            ...block.rows.map((cells) => [...cells]),
          ],
        },
      }
  }
}

/** A document as PDF, with fonts that come with the library; nothing is fetched. */
export async function printPdf(document: TDocumentDefinitions): Promise<Uint8Array> {
  // Loaded on use: it is large, and most starts of the server print nothing.
  const { default: pdfmake } = await import('pdfmake')
  const fonts = join(
    dirname(createRequire(join(process.cwd(), 'package.json')).resolve('pdfmake/package.json')),
    'fonts/Roboto',
  )
  pdfmake.setUrlAccessPolicy(() => false)
  pdfmake.setLocalAccessPolicy((path: string) => path.startsWith(fonts))
  pdfmake.addFonts({
    Roboto: {
      normal: join(fonts, 'Roboto-Regular.ttf'),
      bold: join(fonts, 'Roboto-Medium.ttf'),
      italics: join(fonts, 'Roboto-Italic.ttf'),
      bolditalics: join(fonts, 'Roboto-MediumItalic.ttf'),
    },
  })
  return new Uint8Array(await pdfmake.createPdf(document).getBuffer())
}
