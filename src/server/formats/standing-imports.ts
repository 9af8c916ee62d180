import { createHash } from 'node:crypto'
import { readFileSync, statSync } from 'node:fs'
import { basename, join } from 'node:path'
import type {
  dropStanding as dropContract,
  keepStanding as keepContract,
  listStanding as listContract,
  runStanding as runContract,
} from '#core/formats/contract.ts'
import { mappingShape } from '#core/formats/mapping.ts'
import { Refusal } from '#core/lib/refusal.ts'
import {
  addStanding,
  dueStanding,
  findStanding,
  hideStanding,
  noteStanding,
  type StandingStored,
  standingImports,
} from '#db/formats/imports.ts'
import { findProjectById } from '#db/projects/projects.ts'
import { customFields } from '#db/projects/fields.ts'
import { type Context, contextOf } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import type { Services } from '#server/http/services.ts'
import { nobody } from '#db/people/people.ts'
import { refusal, type Store as Transact } from './import-read.ts'
import { readBeside } from './file-jobs.ts'
import { storeImport } from './store-import.ts'

export const incomingFolder = (data: string): string => join(data, 'incoming')

export const listStanding = ({ tx, project }: Context): Answer<typeof listContract> => ({
  rows: standingImports(tx, project.id),
})

export function keepStanding(context: Context, { body }: Input<typeof keepContract>): Answer<typeof keepContract> {
  const { tx, project, person } = context
  if (basename(body.file) !== body.file || body.file.startsWith('.'))
    throw new Refusal('invalid', 'Name only the file; it is looked for in the folder of incoming files.', {
      fields: [{ field: 'file', message: 'is not the name of a file' }],
    })
  noSecond(context, body.name)
  const id = addStanding(tx, {
    projectId: project.id,
    name: body.name,
    file: body.file,
    what: body.what,
    mapping: body.mapping ? JSON.stringify(body.mapping) : '',
    everyMinutes: body.everyMinutes,
    personId: person.id,
  })
  context.change({ kind: 'mapping', id, ref: body.name, action: 'kept', verdict: true })
  return { id }
}

export function dropStanding(
  context: Context,
  { params, query }: Input<typeof dropContract>,
): Answer<typeof dropContract> {
  const { tx, project, now } = context
  const back = query.undo === 'yes'
  const own = findStanding(tx, project.id, params.id, back)
  if (!own) throw new Refusal('not-found', 'There is no such standing import in this project.')
  if (back) noSecond(context, own.name)
  hideStanding(tx, own.id, back ? null : now)
  context.change({ kind: 'mapping', id: own.id, ref: own.name, action: back ? 'restored' : 'ended', verdict: true })
  return { ok: true }
}

function noSecond({ tx, project }: Context, own: string): void {
  if (standingImports(tx, project.id).some(({ name }) => name === own))
    throw new Refusal('refused', `There is a standing import called ${own} already; nothing was stored.`)
}

export async function runStanding(
  context: OpenContext,
  { params }: Input<typeof runContract>,
): Promise<Answer<typeof runContract>> {
  const standing = findStanding(context.tx, context.project.id, params.id)
  if (!standing) throw new Refusal('not-found', 'There is no such standing import in this project.')
  const done = await importStanding(context.store, context.services, standing)
  return { told: done.told, act: done.act }
}

/** Reads the file where it lies and imports it; what came of it is kept as a sentence. A file that has not changed is left alone. */
async function importStanding(
  store: Transact,
  { data, jobs }: Pick<Services, 'data' | 'jobs'>,
  of: StandingStored,
): Promise<{ told: string; act: number | null }> {
  const note = (told: string, hash: string) => store(({ tx, now }) => noteStanding(tx, of.id, { at: now, told, hash }))
  try {
    const bytes = bytesOf(data, of.file)
    const hash = createHash('sha256').update(bytes).digest('hex')
    if (hash === of.lastHash) {
      note('The file has not changed since the last time.', hash)
      return { told: 'The file has not changed since the last time; nothing was stored.', act: null }
    }
    const custom = store(({ tx, project }) =>
      (['requirement', 'case'] as const).flatMap((owner) =>
        customFields(tx, project.id, owner).map(({ name }) => name),
      ),
    )
    const options = {
      what: of.what,
      custom,
      mapping: of.mapping === '' ? undefined : mappingShape.parse(JSON.parse(of.mapping)),
    }
    const { read } = await readBeside(jobs, { bytes, options })
    if (read.problems.length > 0) throw refusal(read.problems)
    const { counts, act } = await storeImport(store, read, { source: of.name, release: null })
    const told = `${counts.new} new, ${counts.changed} changed, ${counts.unchanged} unchanged, ${counts.gone} gone from the file.`
    note(told, hash)
    return { told, act }
  } catch (error) {
    if (error instanceof Refusal) note(error.sentence, '')
    throw error
  }
}

function bytesOf(data: string, file: string): Buffer {
  const path = join(incomingFolder(data), file)
  const size = statSync(path, { throwIfNoEntry: false })?.size
  if (size === undefined)
    throw new Refusal(
      'not-found',
      `There is no file ${file} in the folder of incoming files (${incomingFolder('DATA')}); nothing was imported.`,
    )
  if (size > 100_000_000) throw new Refusal('too-large', `${file} has more than 100 MB; nothing was imported.`)
  return readFileSync(path)
}

/** Imports what is due, one after the other, in the name of whoever set it up; meant to be called every minute. */
export async function importDue(
  services: Pick<Services, 'db' | 'data' | 'events' | 'jobs' | 'now' | 'logError'>,
): Promise<number> {
  let done = 0
  for (const standing of dueStanding(services.db, services.now())) {
    const project = findProjectById(services.db, standing.projectId)
    if (!project) continue
    const transact: Transact = (work) => {
      const made = services.db.transaction(
        (tx) => {
          const { context, changes } = contextOf({
            tx,
            now: services.now(),
            person: {
              ...nobody,
              id: standing.personId ?? '',
              name: 'standing import',
              email: '',
              administrator: false,
            },
            project,
            role: 'tester',
            expected: 0,
            limit: null,
          })
          return { value: work(context), changes }
        },
        { behavior: 'immediate' },
      )
      if (made.changes.length > 0) services.events.publish(project.id, made.changes)
      return made.value
    }
    try {
      await importStanding(transact, services, standing)
      done += 1
    } catch (error) {
      // What is wrong with the file is kept beside it for people to read; the rest is ours.
      if (!(error instanceof Refusal)) services.logError(error)
    }
  }
  return done
}
