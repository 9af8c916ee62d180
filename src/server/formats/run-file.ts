import { strToU8 } from 'fflate'
import { versionName } from '#core/cases/steps.ts'
import { counted } from '#core/lib/figures.ts'
import { keyOf } from '#core/lib/key.ts'
import { chosenRows } from '#core/runs/data-rows.ts'
import { type FileItem, runPaper, runTable } from '#core/runs/run-file.ts'
import { caseById } from '#db/cases/cases.ts'
import { executedSteps } from '#db/cases/uses.ts'
import { readContent, versionById, type VersionStored, workingCopy } from '#db/cases/versions.ts'
import type { Db, Tx } from '#db/open.ts'
import { findProjectById, type ProjectRow } from '#db/projects/projects.ts'
import { attemptMarks, attemptRows, findAttempt } from '#db/runs/attempts.ts'
import { itemRows, itemsOfRun } from '#db/runs/items.ts'
import { findRun, type RunStored } from '#db/runs/runs.ts'
import { csvText } from '#server/http/csv-text.ts'
import { workbook } from './export-file.ts'
import type { RunFileQuestion } from './file-jobs.ts'
import { paperDocument, printPdf } from './print-pdf.ts'

/** A run, or some of its items, as the bytes of a file. */
export async function runFile(db: Db, of: RunFileQuestion): Promise<Uint8Array> {
  // In one transaction: others store while this thread reads.
  const read = db.transaction((tx) => {
    const project = findProjectById(tx, of.projectId)
    const run = findRun(tx, of.projectId, of.run)
    return project && run ? { project, run, items: fileItems(tx, project, run, of) } : null
  })
  if (!read) throw new Error(`run ${of.run} is gone`)
  const about = { run: keyOf('run', of.run), parts: of.parts, blank: of.blank }
  if (of.as === 'pdf') {
    const under = of.blank ? `${counted(read.items.length, 'item')} to fill in` : counted(read.items.length, 'item')
    const paper = runPaper(read.items, { ...about, title: `${about.run} ${read.run.title}`, under })
    return printPdf(paperDocument(paper, { now: of.now, timeZone: read.project.timeZone }))
  }
  const table = runTable(read.items, about)
  return of.as === 'csv' ? strToU8(csvText(table)) : workbook(about.run, table)
}

function fileItems(
  tx: Tx,
  project: ProjectRow,
  { id: runId, dataRows }: Pick<RunStored, 'id' | 'dataRows'>,
  of: RunFileQuestion,
): FileItem[] {
  const ids = of.ids ?? itemsOfRun(tx, runId, null).map(({ id }) => id)
  const day = new Intl.DateTimeFormat('en-CA', { timeZone: project.timeZone, dateStyle: 'short' })
  return itemRows(tx, runId, ids, of.now).map((row): FileItem => {
    const attempt = row.attempt === null || of.blank ? undefined : findAttempt(tx, project.id, row.attempt)
    const version = attempt ? versionById(tx, attempt.versionId) : undefined
    const shown = version ?? versionToExecute(tx, project, row.caseId)
    const content = readContent(tx, shown)
    const steps = executedSteps(tx, content.steps)
    const places = new Map(steps.map(({ id }, at) => [id, at + 1]))
    return {
      id: row.id,
      case: row.case,
      title: row.title,
      version: shown.major === null ? 'working copy' : `v${versionName(shown.major, shown.minor ?? 0)}`,
      environment: row.environment,
      tester: row.by ?? row.assignee ?? '',
      minutes: row.minutes,
      before: content.preconditions,
      steps: steps.map(({ action, expected, data }) => ({ action, expected, data })),
      rows: attempt
        ? attemptRows(tx, attempt.id)
        : chosenRows(dataRows, content.rows.length).map((row) => content.rows[row - 1] ?? {}),
      verdict: row.word ?? row.verdict,
      words: attempt?.comment ?? '',
      executed: row.at === null ? '' : day.format(row.at),
      build: row.build ?? '',
      defects: row.defects,
      marks: attempt
        ? attemptMarks(tx, attempt.id).map((mark) => ({
            row: mark.row,
            step: places.get(mark.step) ?? 0,
            verdict: mark.word ?? mark.verdict,
            comment: mark.comment,
          }))
        : [],
      pictures: of.pictures.filter((each) => each.attempt === row.attempt),
    }
  })
}

/** The newest version that says what would be executed, else the working copy. */
function versionToExecute(tx: Tx, project: ProjectRow, caseId: number): VersionStored {
  const own = caseById(tx, caseId)
  const working = workingCopy(tx, caseId)
  const find = (id: number | null | undefined) => (id == null ? undefined : versionById(tx, id))
  const approved = project.approvalRequired ? find(own?.approvedVersionId) : undefined
  const newest = find(own?.newestVersionId)
  return approved ?? (newest?.fingerprint === working.fingerprint ? newest : working)
}
