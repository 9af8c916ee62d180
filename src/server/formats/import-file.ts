import type { importFile as contract, Preview } from '#core/formats/contract.ts'
import { fieldsOf } from '#core/formats/columns.ts'
import type { Mapping } from '#core/formats/mapping.ts'
import type { CaseRead, FileRead, RequirementRead } from '#core/formats/shapes.ts'
import { plainText } from '#core/lib/plain-text.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { customFields } from '#db/projects/fields.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { countsOf, type ImportPlan, kindOf, planImport, refusal } from './import-read.ts'
import { keptMapping, keptMappings } from './keep-imports.ts'
import { readBeside } from './file-jobs.ts'
import { mostFileBytes, type ReadAnswer } from './read-file.ts'
import { type BodyLimit, bytesOf } from '#server/http/body.ts'
import { goingFor } from '#server/http/going.ts'
import { storeImport } from './store-import.ts'

const fileLimit: BodyLimit = {
  bytes: mostFileBytes,
  seconds: 300,
  tooLarge: `The file has more than ${mostFileBytes / 1e6} MB, which is the most that is read. Split it; nothing was imported.`,
}

/** Reads a file and tells what it makes of what is there; with `dry=no` stores it, all or nothing. A request that is broken off is cancelled. */
export async function importFile(
  context: OpenContext,
  { query }: Input<typeof contract>,
): Promise<Answer<typeof contract>> {
  const { request, services, store, tx, project } = context
  const bytes = await bytesOf(request, fileLimit)
  const mapping = query.mapping ?? (query.named === undefined ? undefined : namedMapping(context, query.named))
  const custom = (owner: 'requirement' | 'case') => customFields(tx, project.id, owner).map(({ name }) => name)
  const reading = {
    format: query.format,
    what: query.what ?? mapping?.what,
    mapping,
    custom: [...custom('requirement'), ...custom('case')],
    kept: mapping ? [] : allMappings(context),
    lenient: query.dry === 'yes',
  }
  const file = await readBeside(services.jobs, { bytes, options: reading }, request.signal)
  const { read } = file
  const options = {
    source: query.source ?? query.named ?? 'file',
    release: query.release ?? null,
    signal: request.signal,
  }
  const plan = await planImport(store, read, options)
  const problems = [...read.problems, ...plan.problems]
  const answer = answerOf(file, plan, problems, custom, query.what)
  if (query.dry === 'yes') return answer
  if (problems.length > 0) throw refusal(problems)
  const going = goingFor(context, project.id)
  try {
    const stored = await storeImport(store, read, { ...options, onProgress: going.report }, plan)
    return { ...answer, counts: stored.counts, stored: true, act: stored.act }
  } finally {
    going.end()
  }
}

/** So much of a file is shown; all of it is stored. */
const most = { cells: 60, letters: 200, gone: 50, problems: 200, notices: 100, unknown: 100, unread: 100 }

/** What a file makes of what is there, before anything is stored. */
function answerOf(
  { format, read, mapping, sheets, told, fits }: ReadAnswer,
  plan: ImportPlan,
  problems: ImportPlan['problems'],
  custom: (owner: 'requirement' | 'case') => string[],
  asked: Input<typeof contract>['query']['what'],
): Answer<typeof contract> {
  const kind = kindOf(read)
  const what = mapping?.what ?? (kind === 'case' ? 'cases' : (asked ?? 'requirements'))
  return {
    format,
    told,
    what,
    mapping,
    sheets: sheets.map((sheet) => ({
      ...sheet,
      top: sheet.top.map(({ line, cells }) => ({
        line,
        cells: cells.slice(0, most.cells).map((cell) => cell.slice(0, most.letters)),
      })),
    })),
    fields: [...fieldsOf(what), ...custom(kind).map((name) => `custom:${name}`)],
    requirements: read.requirements.length,
    cases: read.cases.length,
    steps: read.cases.reduce((sum, { steps }) => sum + steps.length, 0),
    counts: countsOf(plan),
    gone: plan.gone.slice(0, most.gone).map(({ key, title }) => ({ key, title })),
    problems: problems.slice(0, most.problems).map((each) => ({ ...each })),
    problemCount: problems.length,
    notices: [...plan.notices, ...read.notices].slice(0, most.notices).map((each) => ({ ...each })),
    unknown: read.unknown.slice(0, most.unknown).map((each) => ({ ...each })),
    unread: read.unread.slice(0, most.unread).map((each) => ({ ...each, values: [...each.values] })),
    fits,
    preview: previewOf(read, plan),
    stored: false,
    act: null,
  }
}

const allMappings = ({ tx, project }: OpenContext) => keptMappings(tx, project.id)

function namedMapping({ tx, project }: OpenContext, name: string): Mapping {
  const kept = keptMapping(tx, project.id, name)
  if (!kept) throw new Refusal('not-found', `No mapping is kept under the name “${name}”.`)
  return kept
}

/** What to look at first: rows with something to decide, then the rest, a dozen in all. */
function previewOf(read: FileRead, plan: ImportPlan): Preview[] {
  const rank = { changed: 0, new: 1, unchanged: 2 }
  const rows: readonly (CaseRead | RequirementRead)[] = plan.kind === 'case' ? read.cases : read.requirements
  return [...plan.entries]
    .sort((a, b) => rank[a.status] - rank[b.status] || a.index - b.index)
    .slice(0, 12)
    .flatMap((entry): Preview[] => {
      const of = rows[entry.index]
      if (!of) return []
      const own = {
        place: `row ${of.row}`,
        id: of.id,
        title: of.title,
        status: entry.status,
        key: entry.key,
        changes: [...entry.changes],
      }
      if ('steps' in of)
        return [
          {
            ...own,
            about: [of.folder.join(' / '), of.importance, of.component, of.requirements.join(', '), ...of.tags].filter(
              (each) => each !== '',
            ),
            steps: of.steps.slice(0, 12).map(({ action, expected, data }) => ({ action, expected, data })),
            rows: of.rows.length,
          },
        ]
      return [
        {
          ...own,
          about: [
            of.kind,
            of.state,
            of.component,
            of.likelihood === null ? '' : `risk ${of.likelihood} × ${of.impact}`,
            of.release,
            plainText(of.text).slice(0, 160),
          ].filter((each) => each !== ''),
          steps: [],
          rows: 0,
        },
      ]
    })
}
