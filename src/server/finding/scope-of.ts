import { Refusal } from '#core/lib/refusal.ts'
import type { ScopeQuery } from '#core/lib/shapes.ts'
import { resolveScope, type Scope } from '#core/projects/scope.ts'
import type { Tx } from '#db/open.ts'
import { type ProjectRow } from '#db/projects/projects.ts'
import { projectDetail } from '#db/projects/detail.ts'

/** The scope an address names, or a refusal that says which name is unknown. */
export function scopeOf(tx: Tx, project: ProjectRow, query: ScopeQuery): Scope {
  const resolved = resolveScope(projectDetail(tx, project, 'viewer'), query)
  if ('problem' in resolved) throw new Refusal('invalid', resolved.problem)
  return resolved.scope
}
