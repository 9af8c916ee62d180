import { mkdtemp, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Db } from '#db/open.ts'
import { findProject } from '#db/projects/projects.ts'
import { type Doing, doing } from '#server/workers/job.ts'
import { packed } from '#server/workers/parcels.ts'
import { exportProject } from './export-file.ts'
import { exportJob, paperJob, readFileJob, runFileJob, tableJob } from './file-jobs.ts'
import { firstTable } from './first-table.ts'
import { runFile } from './run-file.ts'
import { paperDocument, printPdf } from './print-pdf.ts'
import { readFile } from './read-file.ts'

export const fileJobs = (db: Db): readonly Doing[] => [
  doing(exportJob, async ({ key, ...of }) => {
    const project = findProject(db, key)
    if (!project) throw new Error(`there is no project ${key}`)
    const { bytes, ...about } = await exportProject(db, project, of)
    const file = join(await mkdtemp(join(tmpdir(), 'rovant-export-')), about.name)
    await writeFile(file, bytes, { mode: 0o600 })
    return { ...about, file, size: bytes.length }
  }),
  doing(paperJob, ({ paper, ...about }) => printPdf(paperDocument(paper, about))),
  doing(runFileJob, (of) => runFile(db, of)),
  doing(tableJob, ({ bytes }) => firstTable(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length))),
  // What comes to another thread has forgotten that it was a buffer.
  doing(readFileJob, async ({ bytes, options }) => {
    const { read, ...about } = await readFile(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length), options)
    const { cases, requirements, ...rest } = read
    return { about, read: rest, cases: packed(cases), requirements: packed(requirements) }
  }),
]
