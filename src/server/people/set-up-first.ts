import type { setUpFirst as contract } from '#core/people/contract.ts'
import { addProject } from '#db/projects/queries.ts'
import { hashPassword } from '#server/http/sign-in.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { setUpFirst as setUp } from './first-set-up.ts'

export async function setUpFirst(
  { services, now }: OpenContext,
  { body }: Input<typeof contract>,
): Promise<Answer<typeof contract>> {
  const passwordHash = await hashPassword(body.password)
  services.db.transaction((tx) => {
    setUp(tx, { ...body, passwordHash, now })
    addProject(tx, { key: body.projectKey, name: body.projectName, product: body.projectName, createdAt: now })
  })
  return { ok: true }
}
