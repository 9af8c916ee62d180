import type { setUpFirst as contract } from '#core/installation/contract.ts'
import { addProject } from '#db/projects/projects.ts'
import { hashPassword } from '#server/http/sign-in.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { setUpFirst as setUp } from './offer-set-up.ts'

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
