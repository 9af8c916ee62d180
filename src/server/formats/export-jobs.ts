import type { Db } from '#db/open.ts'
import { findProject } from '#db/projects/projects.ts'
import { type Doing, doing } from '#server/workers/job.ts'
import { exportJob } from '#server/workers/questions.ts'
import { exportProject } from './export-file.ts'

/** Writing files takes seconds at thousands of cases: on a thread of its own. */
export const exportJobs = (db: Db): readonly Doing[] => [
  doing(exportJob, ({ key, ...of }) => {
    const project = findProject(db, key)
    if (!project) throw new Error(`there is no project ${key}`)
    return exportProject(db, project, of)
  }),
]
