import { wordsOfCases } from '#db/runs/knowing.ts'
import { skillsOf } from '#db/people/members.ts'
import { orderInRun } from '#db/schedule/worth.ts'
import type { Tx } from '#db/open.ts'

/** What executing an item asks for. */
export interface Needs {
  readonly skills: readonly string[]
  /** Items of these that come before it. */
  readonly after: readonly number[]
}

/** What open items of a run ask for: skills that somebody of the project has and their cases name, and others before them. */
export function needsOf(
  tx: Tx,
  { projectId, runId }: { readonly projectId: number; readonly runId: number },
  items: readonly { readonly id: number; readonly case: number }[],
): (item: number) => Needs {
  const skills = skillsOf(tx, projectId)
  const words = skills.length === 0 ? null : wordsOfCases(tx, [...new Set(items.map((item) => item.case))])
  const order = orderInRun(tx, runId)
  const cases = new Map(items.map((item) => [item.id, item.case]))
  return (item) => ({
    skills: skills.filter((skill) => words?.get(cases.get(item) ?? 0)?.has(skill)),
    after: (order.get(item) ?? []).filter((other) => cases.has(other)),
  })
}
