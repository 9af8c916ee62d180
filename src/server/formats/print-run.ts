import { counted } from '#core/lib/figures.ts'
import { keyOf } from '#core/lib/key.ts'
import type { printRun as printContract, sendItemsOut as outContract } from '#core/runs/file-contract.ts'
import { fileParts } from '#core/runs/run-file.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { isFinal } from '#core/lib/verdict.ts'
import { caseById } from '#db/cases/cases.ts'
import { picturesOfRun } from '#db/runs/evidence.ts'
import { itemsOfRun } from '#db/runs/items.ts'
import { findRun } from '#db/runs/runs.ts'
import { cutFrom } from '#server/cases/cut-version.ts'
import { type Context, found } from '#server/http/context.ts'
import { inSlices } from '#server/http/going.ts'
import type { Input, OpenContext } from '#server/http/route.ts'
import { policyOfRun } from '#server/runs/under-policy.ts'
import { fileAnswer } from './file-answer.ts'
import { runFileJob, type RunFileQuestion } from './file-jobs.ts'
import { fileKinds } from './file-kinds.ts'

/** A run as it stands, as a file to keep or to hand on. */
export async function printRun(
  context: OpenContext,
  { params, query }: Input<typeof printContract>,
): Promise<Response> {
  const run = found(findRun(context.tx, context.project.id, params.ref), keyOf('run', params.ref))
  const { pictures, left } =
    query.as === 'pdf' && query.with.includes('pictures') ? await picturesOf(context, run.id) : noPictures
  return written(context, {
    run: params.ref,
    as: query.as,
    parts: query.with,
    blank: false,
    ids: null,
    pictures,
    left: left === 0 ? [] : [counted(left, 'picture')],
  })
}

/** What is to be executed elsewhere: each in a version that is there when it comes back. */
export async function sendItemsOut(
  context: OpenContext,
  { params, body }: Input<typeof outContract>,
): Promise<Response> {
  const { tx, project } = context
  const run = found(findRun(tx, project.id, params.ref), keyOf('run', params.ref))
  const items = itemsOfRun(tx, run.id, body.ids ?? null)
  if (body.ids && items.length < new Set(body.ids).size)
    throw new Refusal('invalid', 'One of the chosen items is not in this run any more; nothing was written.')
  const out = body.ids ? items : items.filter(({ verdict }) => !isFinal(verdict))
  if (out.length === 0)
    throw new Refusal(
      'refused',
      `Everything in ${keyOf('run', run.number)} has its result; there is nothing to send out.`,
    )
  if (!project.approvalRequired && !policyOfRun(context, run).approvedOnly) await cutMissing(context, out)
  return written(context, {
    run: params.ref,
    as: body.as,
    parts: fileParts.filter((part) => part === 'rows' || part === 'steps'),
    blank: true,
    ids: out.map(({ id }) => id),
    pictures: [],
    left: [],
  })
}

/** Whoever executes it elsewhere executes a version that can be named. */
async function cutMissing(context: OpenContext, out: readonly { readonly caseId: number }[]): Promise<void> {
  const cases = [...new Set(out.map(({ caseId }) => caseId))]
  await inSlices<Context>(cases.length, context.store, (inside, at) => {
    const own = caseById(inside.tx, cases[at] ?? 0)
    if (own) cutFrom(inside, own, 'sent out to be executed')
  })
}

async function written(
  { services, project, now, request, store }: OpenContext,
  { left, ...of }: Omit<RunFileQuestion, 'projectId' | 'now'> & { readonly left: readonly string[] },
): Promise<Response> {
  const bytes = await services.jobs.run(runFileJob, { projectId: project.id, now, ...of }, request.signal)
  const name = `${project.key}-${keyOf('run', of.run)}${of.blank ? '-to-fill-in' : ''}`
  store((inside) => inside.secure({ kind: 'export', told: `${name} was written as ${of.as}` }))
  const { mime, ending } = fileKinds[of.as]
  return fileAnswer(Uint8Array.from(bytes), { name: `${name}.${ending}`, mime, left })
}

/** So many go into one file: they are handed to another thread, and nobody is to wait for that. The others are counted. */
const most = { pictures: 100, bytes: 10_000_000 }

interface Pictures {
  readonly pictures: RunFileQuestion['pictures']
  readonly left: number
}
const noPictures: Pictures = { pictures: [], left: 0 }

async function picturesOf({ services, tx }: OpenContext, runId: number): Promise<Pictures> {
  const pictures: { attempt: number; name: string; data: string }[] = []
  let [bytes, left] = [0, 0]
  for (const { attempt, name, mime, hash, size } of picturesOfRun(tx, runId)) {
    const fits = pictures.length < most.pictures && bytes + size <= most.bytes
    const parts = fits ? await services.evidence.read(hash) : null
    if (!parts) {
      left++
      continue
    }
    const whole: Uint8Array[] = []
    for await (const part of parts) whole.push(part)
    bytes += size
    pictures.push({ attempt, name, data: `data:${mime};base64,${Buffer.concat(whole).toString('base64')}` })
  }
  return { pictures, left }
}
