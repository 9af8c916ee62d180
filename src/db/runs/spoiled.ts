import { type SQL, sql } from 'drizzle-orm'
import { isOpenVerdict } from '#db/rules.ts'

/** The policy a run is executed under, beside `run u`. */
export const withPolicy: SQL = sql`
  join project j on j.id = u.project_id
  left join policy o on o.id = coalesce(u.policy_id, j.policy_id)`

/** What of an item's attempt, with the case `c` and whatever `withPolicy` brings. */
const ofAttempt = (what: SQL): SQL => sql`(select ${what} from attempt y where y.id = i.attempt_id)`

/** The version of a case `c` that would be executed now: where only approved ones are, the approved one, else the working copy. */
const versionNow = (approvedOnly: SQL): SQL => sql`
  (
    select v.fingerprint
    from case_version v
    where v.id = case
      when ${approvedOnly} then c.approved_version_id
      else (select w.id from case_version w where w.case_id = c.id and w.major is null)
    end
  )`

const approvedOnly: SQL = sql`j.approval_required or coalesce(o.approved_only, 0)`

/** Whether an item that was not begun follows another version than when it was put in, with `withPolicy` and its case `c`. */
export const movedSince: SQL = sql`
  (i.attempt_id is null and i.fingerprint is not null and i.fingerprint is not ${versionNow(approvedOnly)})`

/** What is to be executed of the case `c` in the run `u`, by its policy. */
export const fingerprintNow: SQL = versionNow(approvedOnly)

/**
 * Why the result of an item of a run that goes on counts as still to be done, by the run's policy; null: it does not. Nothing is
 * read of attempts where no policy asks for it.
 */
export const spoiledBy: SQL = sql`
  case
    when o.id is null or u.state in ('Closed', 'Aborted') or ${isOpenVerdict('i.verdict')} then null
    when o.spoiled_by_build and ${ofAttempt(sql`y.build_id`)} <> u.build_id then 'another build'
    when o.spoiled_by_case
      and (select v.fingerprint from case_version v where v.id = ${ofAttempt(sql`y.version_id`)})
        is not (
          select v.fingerprint
          from case_version v
          where v.id = case when j.approval_required or o.approved_only then c.approved_version_id else c.newest_version_id end
        )
      then 'a changed case'
  end`
