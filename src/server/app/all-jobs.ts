import type { Db } from '#db/open.ts'
import { type RepeatAnswers, repeatJobs, type RepeatQuestions } from '#server/reuse/repeat-jobs.ts'
import { type ReportAnswers, reportJobs, type ReportQuestions } from '#server/reports/report-jobs.ts'
import { type DesignAnswers, designJobs, type DesignQuestions } from '#server/techniques/design-jobs.ts'

export interface JobQuestions extends ReportQuestions, RepeatQuestions, DesignQuestions {}
export interface JobAnswers extends ReportAnswers, RepeatAnswers, DesignAnswers {}

/** Every long read, by its name. */
export const allJobs = (
  db: Db,
): { readonly [K in keyof JobQuestions]: (question: JobQuestions[K]) => JobAnswers[K] } => ({
  ...reportJobs(db),
  ...repeatJobs(db),
  ...designJobs(db),
})
