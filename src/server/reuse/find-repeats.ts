import { keyOf, numberIn } from '#core/lib/key.ts'
import type {
  findAlike as alikeContract,
  findRepeats as repeatsContract,
  findSame as sameContract,
} from '#core/reuse/repeat-contract.ts'
import { plainText } from '#core/lib/plain-text.ts'
import { attemptCounts, findCase } from '#db/cases/cases.ts'
import { caseRows } from '#db/cases/list.ts'
import { found } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { repeatsJob, sameJob, alikeJob } from '#server/workers/questions.ts'

export async function findRepeats(
  { services, project, tx }: OpenContext,
  { query }: Input<typeof repeatsContract>,
): Promise<Answer<typeof repeatsContract>> {
  const own = query.ref === undefined ? null : found(findCase(tx, project.id, numberIn('case', query.ref)), query.ref)
  const { rows, total } = await services.jobs.run(repeatsJob, {
    projectId: project.id,
    caseId: own?.id ?? null,
    limit: query.limit,
  })
  const cases = new Map(
    caseRows(tx, project.id, [...new Set(rows.flatMap(({ places }) => places.map(({ id }) => id)))]).map((row) => [
      row.id,
      row,
    ]),
  )
  return {
    total,
    rows: rows.map(({ length, saved, steps, places }) => ({
      length,
      saved,
      steps: steps.map(({ action, expected, data }) => ({
        action: plainText(action),
        expected: plainText(expected),
        data: plainText(data),
      })),
      places: places.flatMap(({ id, at }) => {
        const row = cases.get(id)
        return row ? [{ case: row.key, title: row.title, at }] : []
      }),
    })),
  }
}

const shownOfGroup = 30

export async function findAlike(
  { services, project, tx }: OpenContext,
  { query }: Input<typeof alikeContract>,
): Promise<Answer<typeof alikeContract>> {
  const {
    rows: groups,
    total,
    whole,
  } = await services.jobs.run(alikeJob, { projectId: project.id, atLeast: query.atLeast, limit: query.limit })
  const rows = groups.map((group) => ({
    ...group,
    ids: group.ids.slice(0, shownOfGroup),
    more: Math.max(0, group.ids.length - shownOfGroup),
  }))
  const ids = [...new Set(rows.flatMap((row) => row.ids))]
  const [cases, attempts] = [new Map(caseRows(tx, project.id, ids).map((row) => [row.id, row])), attemptCounts(tx, ids)]
  return {
    total,
    whole,
    rows: rows.map(({ likeness, more, ids: own }) => ({
      likeness,
      more,
      cases: own.flatMap((id) => {
        const row = cases.get(id)
        return row
          ? [
              {
                id,
                key: row.key,
                title: row.title,
                steps: row.steps,
                links: row.requirements,
                attempts: attempts.get(id) ?? 0,
              },
            ]
          : []
      }),
    })),
  }
}

export async function findSame(
  { services, project, tx }: OpenContext,
  { params, query }: Input<typeof sameContract>,
): Promise<Answer<typeof sameContract>> {
  const own = found(findCase(tx, project.id, params.ref), keyOf('case', params.ref))
  const places = await services.jobs.run(sameJob, {
    projectId: project.id,
    caseId: own.id,
    at: query.at,
    length: query.length,
  })
  const keys = new Map(
    caseRows(
      tx,
      project.id,
      places.map(({ id }) => id),
    ).map((row) => [row.id, row.key]),
  )
  return {
    places: places.flatMap(({ id, title, at }) => {
      const key = keys.get(id)
      return key === undefined ? [] : [{ case: key, title, at }]
    }),
  }
}
