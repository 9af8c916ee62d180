import type { importFile as contract, Preview } from '#core/formats/contract.ts'
import { fieldsOf } from '#core/formats/columns.ts'
import type { Mapping } from '#core/formats/mapping.ts'
import type { CaseRead, FileRead, RequirementRead } from '#core/formats/shapes.ts'
import { plainText } from '#core/lib/plain-text.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { customFields } from '#db/projects/fields.ts'
import { belongs } from '#db/projects/releases.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { countsOf, type ImportPlan, kindOf, planImport, refusal } from './import-read.ts'
import { keptMapping } from './keep-imports.ts'
import { startJob } from './import-jobs.ts'
import { mostFileBytes, readFile } from './read-file.ts'
import { storeImport } from './store-import.ts'

/** Reads a file and tells what it makes of what is there; with `dry=no` stores it, all or nothing. A request that is broken off is cancelled. */
export async function importFile(
  context: OpenContext,
  { query }: Input<typeof contract>,
): Promise<Answer<typeof contract>> {
  const { request, store, tx, project } = context
  if (query.release !== undefined && !belongs(tx, project.id, 'release', query.release))
    throw new Refusal('invalid', 'That release is not one of this project.')
  const bytes = await bodyOf(request)
  const mapping = query.mapping ?? (query.named === undefined ? undefined : namedMapping(context, query.named))
  const custom = (owner: 'requirement' | 'case') => customFields(tx, project.id, owner).map(({ name }) => name)
  const {
    format,
    read,
    mapping: used,
    sheets,
    told,
  } = await readFile(bytes, {
    format: query.format,
    what: query.what ?? mapping?.what,
    mapping,
    custom: [...custom('requirement'), ...custom('case')],
    lenient: query.dry === 'yes',
  })
  const what = kindOf(read) === 'case' ? 'cases' : 'requirements'
  const options = {
    source: query.source ?? query.named ?? 'file',
    release: query.release ?? null,
    signal: request.signal,
  }
  const plan = await planImport(store, read, options)
  const problems = [...read.problems, ...plan.problems]
  const answer = {
    format,
    told,
    what: used?.what ?? what,
    mapping: used,
    sheets: sheets.map((sheet) => ({
      ...sheet,
      top: sheet.top.map((row) => ({
        line: row.line,
        cells: row.cells.slice(0, 60).map((cell) => cell.slice(0, 200)),
      })),
    })),
    fields: [
      ...fieldsOf(used?.what ?? what),
      ...custom(what === 'cases' ? 'case' : 'requirement').map((name) => `custom:${name}`),
    ],
    requirements: read.requirements.length,
    cases: read.cases.length,
    steps: read.cases.reduce((sum, { steps }) => sum + steps.length, 0),
    counts: countsOf(plan),
    gone: plan.gone.slice(0, 50).map(({ key, title }) => ({ key, title })),
    problems: problems.slice(0, 200).map((each) => ({ ...each })),
    problemCount: problems.length,
    notices: [...plan.notices, ...read.notices].slice(0, 100).map((each) => ({ ...each })),
    preview: previewOf(read, plan),
    stored: false,
    act: null,
  } satisfies Answer<typeof contract>
  if (query.dry === 'yes') return answer
  if (problems.length > 0) throw refusal(problems)
  const job = startJob(project.id, query.job ?? `${options.source} ${context.now}`)
  try {
    const stored = await storeImport(store, read, { ...options, onProgress: job.report }, plan)
    return { ...answer, counts: stored.counts, stored: true, act: stored.act }
  } finally {
    job.end()
  }
}

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

async function bodyOf(request: Request): Promise<Buffer> {
  const parts: Uint8Array[] = []
  let size = 0
  for await (const part of request.body ?? []) {
    size += part.length
    if (size > mostFileBytes)
      throw new Refusal(
        'too-large',
        `The file has more than ${mostFileBytes / 1e6} MB, which is the most that is read. Split it; nothing was imported.`,
      )
    parts.push(part)
  }
  return Buffer.concat(parts)
}
