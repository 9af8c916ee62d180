import type { readSigningIn as readContract, updateSigningIn as updateContract } from '#core/installation/contract.ts'
import { askFactor, installationAsksFactor, refuseAskingWithoutFactor } from '#server/http/permission.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'

export async function readSigningIn(
  { tx, services }: OpenContext,
  _: Input<typeof readContract>,
): Promise<Answer<typeof readContract>> {
  const { mail, baseAddress } = services
  return { secondFactorAsked: installationAsksFactor(tx), mail: mail.isSetUp, address: baseAddress }
}

export function updateSigningIn(
  context: Context,
  { body }: Input<typeof updateContract>,
): Answer<typeof updateContract> {
  const { tx, person } = context
  if (body.secondFactorAsked) refuseAskingWithoutFactor(person)
  if (installationAsksFactor(tx) !== body.secondFactorAsked)
    context.secure({
      kind: 'setting',
      told: body.secondFactorAsked
        ? 'Everybody is asked for a second factor from now on'
        : 'A second factor is no longer asked of everybody',
      person: null,
    })
  askFactor(tx, body.secondFactorAsked)
  return { ok: true }
}
