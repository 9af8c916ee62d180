import { open, rm } from 'node:fs/promises'
import { dirname } from 'node:path'
import { Readable } from 'node:stream'
import { strToU8, zipSync } from 'fflate'
import type { exportChosen as chosenContract, exportFile as contract } from '#core/formats/contract.ts'
import { writeGherkin } from '#core/formats/gherkin.ts'
import { writeMarkdownCases, writeMarkdownRequirements } from '#core/formats/markdown.ts'
import { writeReqif } from '#core/formats/reqif.ts'
import { plainCaseOf } from '#core/formats/plan-import.ts'
import type { CaseRead, RequirementRead } from '#core/formats/shapes.ts'
import { caseTable, requirementTable } from '#core/formats/write-sheet.ts'
import { plainText } from '#core/lib/plain-text.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { outlineOrder } from '#core/requirements/outline.ts'
import { caseIds } from '#db/cases/cases.ts'
import { storedCases, storedRelations, storedRequirements, type StoredCase } from '#db/formats/stored.ts'
import type { Db } from '#db/open.ts'
import { customFields } from '#db/projects/fields.ts'
import type { ProjectRow } from '#db/projects/projects.ts'
import { outlinePlaces } from '#db/requirements/outline.ts'
import type { Input, OpenContext } from '#server/http/route.ts'
import { csvText } from '#server/http/csv-text.ts'
import { fileAnswer } from './file-answer.ts'
import { type Exported, exportJob, type ExportQuestion } from './file-jobs.ts'
import { type ExportFormat, fileKinds } from './file-kinds.ts'
import { casesDocument, printPdf, requirementsDocument } from './print-pdf.ts'

type ExportOf = Omit<ExportQuestion, 'key'>

/** What can be written of which; the rest of the formats has no place for it. */
const formatsOf: Readonly<Record<ExportOf['what'], readonly ExportFormat[]>> = {
  cases: ['xlsx', 'csv', 'markdown', 'gherkin', 'pdf'],
  requirements: ['xlsx', 'csv', 'markdown', 'reqif', 'reqifz', 'pdf'],
}

export const exportFile = (context: OpenContext, { query }: Input<typeof contract>): Promise<Response> =>
  exported(context, query)

export const exportChosen = (context: OpenContext, { body }: Input<typeof chosenContract>): Promise<Response> =>
  exported(context, body)

/** A file of the project, written on a thread of its own; who took it away is among the security events. */
async function exported(context: OpenContext, of: Omit<ExportOf, 'now'>): Promise<Response> {
  const { services, project, now, request } = context
  refuseFormat(of)
  const made = await services.jobs.run(exportJob, { key: project.key, ...of, now }, request.signal)
  context.store((inside) =>
    inside.secure({ kind: 'export', told: `${of.what} of ${project.key} were exported as ${of.format}` }),
  )
  return fileAnswer(await streamOnce(made.file), made)
}

/** What a file says, which goes with its folder as soon as it is open. */
async function streamOnce(file: string): Promise<ReadableStream<Uint8Array>> {
  const opened = await open(file)
  await rm(dirname(file), { recursive: true })
  return Readable.toWeb(opened.createReadStream()) as ReadableStream<Uint8Array>
}

function refuseFormat({ format, what }: Pick<ExportOf, 'format' | 'what'>): void {
  if (formatsOf[what].includes(format)) return
  const other = what === 'cases' ? 'requirements, not cases' : 'cases, not requirements'
  throw new Refusal(
    'invalid',
    `${format} holds ${other}; take ${formatsOf[what].join(', ').replace(/, (\w+)$/, ' or $1')}.`,
  )
}

/** Requirements or cases of a project as a file, with what the format has no place for. */
export async function exportProject(db: Db, project: ProjectRow, of: ExportOf): Promise<Exported> {
  refuseFormat(of)
  const told = await (of.what === 'cases' ? exportCases(db, project, of) : exportRequirements(db, project, of))
  return {
    bytes: told.bytes,
    left: told.left,
    name: `${project.key}-${of.what}.${fileKinds[of.format].ending}`,
    mime: fileKinds[of.format].mime,
  }
}

type Told = Pick<Exported, 'bytes' | 'left'>

async function exportCases(db: Db, project: ProjectRow, of: ExportOf): Promise<Told> {
  // In one transaction: others store while this thread reads.
  const { custom, cases } = db.transaction((inside) => {
    const fields = customFields(inside, project.id, 'case')
    const ids = of.ids ?? caseIds(inside, project.id)
    return { custom: fields, cases: storedCases(inside, project.id, { ids, custom: fields, written: true }) }
  })
  const names = custom.map(({ name }) => name)
  const told = await caseFile(project, { of, cases, names })
  return { ...told, left: [...told.left, ...ties(cases)] }
}

/** What ties a case to other things here, which a file of cases has no place for. */
function ties(cases: readonly StoredCase[]): string[] {
  const told = (n: number, what: string) => (n === 0 ? [] : [`${what} (${n === 1 ? 'one case' : `${n} cases`})`])
  return [
    ...told(
      cases.filter(({ inserted }) => inserted.length > 0).length,
      'that steps come from a routine or another case: they are written out',
    ),
    ...told(cases.filter(({ needs }) => needs).length, 'cases that must run before'),
    ...told(cases.filter(({ environment }) => environment).length, 'the environment a case needs'),
    ...told(cases.filter(({ table }) => table).length, 'data tables'),
  ]
}

async function caseFile(
  project: ProjectRow,
  { of, cases, names }: { of: ExportOf; cases: readonly StoredCase[]; names: readonly string[] },
): Promise<Told> {
  switch (of.format) {
    case 'csv':
      return {
        bytes: strToU8(csvText(caseTable(cases.map(plainCaseOf), names))),
        left: marksLost(cases.map(textsOfCase)),
      }
    case 'xlsx':
      return {
        bytes: await workbook('Cases', caseTable(cases.map(plainCaseOf), names)),
        left: marksLost(cases.map(textsOfCase)),
      }
    case 'markdown':
      return {
        bytes: strToU8(writeMarkdownCases(cases)),
        left: [...marksLost(cases.map(textsOfCase)), ...ownFieldsLost(cases)],
      }
    case 'gherkin': {
      const { text, left } = writeGherkin(cases, `${project.product} (${project.key})`)
      return { bytes: strToU8(text), left }
    }
    case 'pdf':
      return {
        bytes: await printPdf(
          casesDocument(cases, { title: `${project.product}: test cases`, now: of.now, timeZone: project.timeZone }),
        ),
        left: [],
      }
    default:
      throw new Error(`${of.format} was let through`)
  }
}

async function exportRequirements(db: Db, project: ProjectRow, of: ExportOf): Promise<Told> {
  const chosen = of.ids === undefined ? null : new Set(of.ids)
  const { custom, requirements, relations } = db.transaction((inside) => {
    const fields = customFields(inside, project.id, 'requirement')
    const ids = outlineOrder(outlinePlaces(inside, project.id))
      .map(({ place }) => place.id)
      .filter((id) => chosen === null || chosen.has(id))
    return {
      custom: fields,
      requirements: storedRequirements(inside, project.id, ids, fields),
      relations: storedRelations(inside, project.id),
    }
  })
  const names = custom.map(({ name }) => name)
  const texts = requirements.map(({ text }) => [text])
  const document = () =>
    writeReqif(requirements, relations, {
      title: project.product,
      at: new Date(of.now).toISOString(),
    })
  switch (of.format) {
    case 'csv':
      return {
        bytes: strToU8(csvText(requirementTable(requirements.map(plainRequirementOf), names))),
        left: marksLost(texts),
      }
    case 'xlsx':
      return {
        bytes: await workbook('Requirements', requirementTable(requirements.map(plainRequirementOf), names)),
        left: marksLost(texts),
      }
    case 'markdown': {
      const { text, left } = writeMarkdownRequirements(requirements)
      return { bytes: strToU8(text), left: [...left, ...marksLost(texts), ...ownFieldsLost(requirements)] }
    }
    case 'reqif':
      return { bytes: strToU8(document()), left: [] }
    case 'reqifz':
      return { bytes: zipSync({ [`${project.key}.reqif`]: strToU8(document()) }), left: [] }
    case 'pdf':
      return {
        bytes: await printPdf(
          requirementsDocument(requirements, {
            title: `${project.product}: requirements`,
            now: of.now,
            timeZone: project.timeZone,
          }),
        ),
        left: [],
      }
    default:
      throw new Error(`${of.format} was let through`)
  }
}

const plainRequirementOf = (of: RequirementRead): RequirementRead => ({ ...of, text: plainText(of.text) })
const textsOfCase = (of: CaseRead): string[] => [
  of.objective,
  of.preconditions,
  ...of.steps.flatMap(({ action, expected, data }) => [action, expected, data]),
]

/** Paragraphs come back as lines; every other mark (bold, lists, links, pictures) is lost in plain text. */
function marksLost(all: readonly (readonly string[])[]): string[] {
  const lost = all.filter((texts) => texts.some((text) => /<(?!\/?(p|br)\b)[a-z]/i.test(text))).length
  return lost === 0 ? [] : [`marks of rich text (${lost})`]
}

const ownFieldsLost = (all: readonly { readonly custom: Readonly<Record<string, string>> }[]): string[] => {
  const lost = all.filter(({ custom }) => Object.keys(custom).length > 0).length
  return lost === 0 ? [] : [`the project’s own fields (${lost})`]
}

export async function workbook(name: string, table: readonly (readonly string[])[]): Promise<Uint8Array> {
  const { default: excel } = await import('exceljs')
  const book = new excel.Workbook()
  const sheet = book.addWorksheet(name, { views: [{ state: 'frozen', ySplit: 1 }] })
  for (const row of table) sheet.addRow(row)
  sheet.getRow(1).font = { bold: true }
  sheet.columns.forEach((column, index) => {
    column.width = Math.min(
      60,
      Math.max(10, ...table.slice(0, 200).map((row) => Math.ceil((row[index]?.length ?? 0) * 0.9))),
    )
  })
  sheet.eachRow((row) => {
    row.alignment = { vertical: 'top', wrapText: true }
  })
  return new Uint8Array(await book.xlsx.writeBuffer())
}
