import type { setUpFirst as contract } from '#core/installation/contract.ts'
import { addProject } from '#db/projects/projects.ts'
import { hashPassword } from '#server/http/sign-in.ts'
import { refuseCommon } from '#server/people/passwords.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { isSetUpCode, setUpFirst as setUp, wrongCode } from './offer-set-up.ts'

export async function setUpFirst(
  { services, now, address }: OpenContext,
  { body }: Input<typeof contract>,
): Promise<Answer<typeof contract>> {
  const right = await services.guesses.guess({
    account: 'set-up',
    address,
    look: async () => isSetUpCode(services.db, body.code),
    right: (is) => is,
  })
  await refuseCommon(body.password)
  // Hashing is work; it is done for whoever has the code.
  if (!right) throw wrongCode()
  const passwordHash = await hashPassword(body.password)
  services.db.transaction((tx) => {
    setUp(tx, { ...body, passwordHash, now })
    addProject(tx, { key: body.projectKey, name: body.projectName, product: body.projectName, createdAt: now })
  })
  return { ok: true }
}
