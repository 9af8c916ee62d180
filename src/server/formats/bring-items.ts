import { createHash } from 'node:crypto'
import { keyOf } from '#core/lib/key.ts'
import { richText } from '#core/lib/plain-text.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { finalVerdicts, type FinalVerdict, type OwnVerdict, verdict as verdictShape } from '#core/lib/verdict.ts'
import type { bringItemsIn as contract } from '#core/runs/file-contract.ts'
import { chosenRows } from '#core/runs/data-rows.ts'
import { readReturned, type Returned } from '#core/runs/run-file.ts'
import { executedStepIds } from '#db/cases/uses.ts'
import { readContent, versionNamed, type VersionStored } from '#db/cases/versions.ts'
import { verdictKinds } from '#db/projects/verdict-kinds.ts'
import { attemptRows, findAttempt, saveAttempt } from '#db/runs/attempts.ts'
import { findItem, itemRows, type ItemStored } from '#db/runs/items.ts'
import { findRun, type RunStored } from '#db/runs/runs.ts'
import { findEvent } from '#db/runs/verdict-events.ts'
import { type BodyLimit, bytesOf } from '#server/http/body.ts'
import { type Context, found, oneOfMany } from '#server/http/context.ts'
import { inSlices } from '#server/http/going.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { commentStep } from '#server/runs/note-step.ts'
import { recordStep, recordWhole } from '#server/runs/record-verdict.ts'
import { beginAttempt } from '#server/runs/start-attempt.ts'
import { policyOfRun, refuseOthers } from '#server/runs/under-policy.ts'
import { tableJob } from './file-jobs.ts'

const fileLimit: BodyLimit = {
  bytes: 20_000_000,
  seconds: 120,
  tooLarge: 'The file has more than 20 MB; a run that was taken out has not. Nothing was stored.',
}

type Told = Answer<typeof contract>['rows'][number]

/** Reads what comes back and tells what it would make; with `dry=no` stores it item by item, and what cannot be stored stays out. */
export async function bringItemsIn(
  context: OpenContext,
  { params, query }: Input<typeof contract>,
): Promise<Answer<typeof contract>> {
  const { tx, project, services, request } = context
  const run = found(findRun(tx, project.id, params.ref), keyOf('run', params.ref))
  const bytes = await bytesOf(request, fileLimit)
  const table = await services.jobs.run(tableJob, { bytes }, request.signal)
  const file = readReturned(table, keyOf('run', run.number))
  if (!file)
    throw new Refusal(
      'wrong-kind',
      'There is no table of items in this file: it wants columns “Item” and “Verdict”, as it was taken out.',
    )
  const rows: Told[] = []
  const undo: number[] = []
  await inSlices<Context>(file.items.length, context.store, (inside, at) => {
    const returned = file.items[at]
    if (!returned) return
    const { item, version, mark, told } = oneOf(inside, run, returned, query.person)
    if (query.dry === 'yes' || told.becomes !== 'new' || !item || !version) return void rows.push(told)
    const taken = oneOfMany(inside, () => take(inside, { item, version, mark, returned, person: query.person }))
    if ('done' in taken) undo.push(taken.done)
    rows.push('done' in taken ? told : { ...told, becomes: 'problem', why: taken.refused.sentence })
  })
  if (undo.length > 0)
    context.store((inside) =>
      inside.change({
        kind: 'run',
        id: run.id,
        ref: keyOf('run', run.number),
        action: 'brought in',
        detail: { items: [null, undo.length] },
      }),
    )
  const count = (becomes: Told['becomes']) => rows.filter((each) => each.becomes === becomes).length
  const unread = file.problems.map(({ line, message }) => unreadLine(line, message))
  return {
    rows: [...rows, ...unread],
    counts: {
      new: count('new'),
      there: count('there'),
      problem: count('problem') + unread.length,
      empty: file.empty,
    },
    stored: query.dry === 'no',
    undo,
  }
}

const unreadLine = (line: number, why: string): Told => ({
  item: 0,
  line,
  case: '',
  title: '',
  environment: '',
  before: null,
  verdict: '',
  words: '',
  steps: 0,
  becomes: 'problem',
  why,
})

interface One {
  readonly told: Told
  readonly item: ItemStored | undefined
  readonly version: VersionStored | undefined
  readonly mark: string
}

/** What a file says of one item, held against what is there. */
function oneOf(context: Context, run: RunStored, returned: Returned, person: string): One {
  const { tx, project, now } = context
  const item = findItem(tx, project.id, returned.item)
  const here = item?.runId === run.id ? item : undefined
  const [row] = here ? itemRows(tx, run.id, [here.id], now) : []
  const version = here && versionNamed(tx, here.caseId, returned.version)
  const mark = markOf(returned, person)
  const there = findEvent(tx, mark, 1) !== undefined
  const why = there ? '' : problemOf(context, { run, returned, person, item: here, version })
  return {
    item: here,
    version,
    mark,
    told: {
      item: returned.item,
      line: returned.line,
      case: row?.case ?? '',
      title: row?.title ?? '',
      environment: row?.environment ?? '',
      before: row?.verdict ?? null,
      verdict: returned.verdict,
      words: returned.words,
      steps: returned.steps.length,
      becomes: there ? 'there' : why === '' ? 'new' : 'problem',
      why,
    },
  }
}

/** The same said by the same person of the same version is the same wherever it comes from: it is stored once. */
const markOf = ({ item, version, verdict, words, steps }: Returned, person: string): string =>
  `file-${createHash('sha256')
    .update(JSON.stringify([item, version, verdict, words, steps, person]))
    .digest('hex')
    .slice(0, 40)}`

/** Why it cannot be stored; empty: it can. */
function problemOf(
  context: Context,
  of: {
    readonly run: RunStored
    readonly returned: Returned
    readonly person: string
    readonly item: ItemStored | undefined
    readonly version: VersionStored | undefined
  },
): string {
  const { run, returned, person, item, version } = of
  if (!item) return `there is no such item in ${keyOf('run', run.number)} any more`
  if (run.state !== 'Open') return `${keyOf('run', run.number)} is ${run.state.toLowerCase()}`
  if (!version) return `its case has no version “${returned.version}”`
  const kinds = verdictKinds(context.tx, context.project.id)
  const unknown = [returned.verdict, ...returned.steps.map(({ verdict }) => verdict)].find(
    (text, at) => text !== '' && !saidIn(kinds, text, at === 0 ? 'forItems' : 'forSteps'),
  )
  if (unknown !== undefined) return `“${unknown}” is no verdict here`
  const steps = executedStepIds(context.tx, version.id).length
  const rows = Math.max(1, chosenRows(run.dataRows, readContent(context.tx, version).rows.length).length)
  const beyond = returned.steps.find((each) => each.step > steps || each.row > rows)
  if (beyond)
    return `that version has ${steps} steps and ${rows} data rows; the file names step ${beyond.step} of row ${beyond.row}`
  try {
    refuseOthers({ ...context, person: { ...context.person, id: person } }, policyOfRun(context, run), item, null)
    return ''
  } catch (error) {
    if (error instanceof Refusal) return error.sentence
    throw error
  }
}

interface SaidHere {
  readonly verdict: FinalVerdict
  readonly word: string | null
}

/** A verdict by its name or by one of the project's words, however its letters are written. */
function saidIn(kinds: readonly OwnVerdict[], text: string, about: 'forItems' | 'forSteps'): SaidHere | null {
  const small = text.toLowerCase()
  const plain = finalVerdicts.find((verdict) => verdict.toLowerCase() === small)
  if (plain) return { verdict: plain, word: null }
  const kind = kinds.find((each) => each[about] && each.retiredAt === null && each.word.toLowerCase() === small)
  return kind ? { verdict: kind.countsAs, word: kind.word } : null
}

/** Stores what came back of one item as an attempt of whoever executed it; answers the attempt. */
function take(
  context: Context,
  {
    item,
    version,
    returned,
    person,
    mark,
  }: { item: ItemStored; version: VersionStored; returned: Returned; person: string; mark: string },
): number {
  const { tx, project, now } = context
  const kinds = verdictKinds(tx, project.id)
  const attempt = beginAttempt(context, item, { version, person })
  // What took place elsewhere was on no clock of ours.
  saveAttempt(tx, attempt, { comment: returned.words, timing: 'typed' })
  const ids = executedStepIds(tx, version.id)
  const rows = Math.max(1, attemptRows(tx, attempt).length)
  let sequence = 0
  const event = () => ({ client: mark, sequence: ++sequence, at: now, forOther: true as const })
  for (const { row, step, verdict, words } of returned.steps) {
    const id = ids[step - 1]
    if (id === undefined || row > rows) continue
    const params = { key: project.key, id: attempt, row, step: id }
    const said = saidIn(kinds, verdict, 'forSteps')
    if (said) recordStep(context, { params, query: undefined, body: { ...said, ...event() } })
    if (words !== '') commentStep(context, { params, query: undefined, body: { text: richText(words) } })
  }
  const whole = saidIn(kinds, returned.verdict, 'forItems')
  const stands = verdictShape.parse(findAttempt(tx, project.id, attempt)?.verdict)
  if (whole && (whole.verdict !== stands || whole.word !== null))
    recordWhole(context, {
      params: { key: project.key, id: attempt },
      query: undefined,
      body: { ...whole, reason: returned.words || 'As it came back from outside', ...event() },
    })
  return attempt
}
