import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { idOf } from '#core/lib/owned.ts'
import { line, none, projectParams } from '#core/lib/shapes.ts'

const quarantine = '/projects/:key/quarantine'
/** A case in an environment; in every one where none is named. */
const place = z.object({ case: idOf('test_case'), environment: idOf('environment').nullable() })
const kept = place.extend({ reason: line(500) })
const most = 5000

export const quarantineCases = contract({
  name: 'quarantineCases',
  method: 'POST',
  path: quarantine,
  permission: 'leadRuns',
  summary:
    'Cases that are executed and shown and do not count until they are let out; those in quarantine there stay so',
  params: projectParams,
  query: none,
  body: z.object({ of: z.array(kept).min(1).max(most) }),
  output: z.object({ changed: z.number(), undo: z.array(place) }),
})
export const endQuarantine = contract({
  name: 'endQuarantine',
  method: 'POST',
  path: `${quarantine}/end`,
  permission: 'leadRuns',
  summary: 'Let cases out of quarantine: they count again',
  params: projectParams,
  query: none,
  body: z.object({ of: z.array(place).min(1).max(most) }),
  output: z.object({ changed: z.number(), undo: z.array(kept) }),
})
