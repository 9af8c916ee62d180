import { keyOf } from '#core/lib/key.ts'
import type { writeRequirementLines as contract } from '#core/requirements/contract.ts'
import { outlineLines } from '#core/lib/outline-lines.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { addRequirement, requirementById } from '#db/requirements/requirements.ts'
import { lastPosition } from '#db/requirements/outline.ts'
import { setTargets } from '#db/requirements/targets.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

const most = 10_000

/** Adds an outline of lines in one act; indented lines go below the line they are indented under. */
export function writeRequirementLines(context: Context, { body }: Input<typeof contract>): Answer<typeof contract> {
  const { tx, project, by } = context
  const lines = outlineLines(body.lines)
  refuseLines(lines)
  if (body.under !== null) found(requirementById(tx, project.id, body.under), 'The requirement to write under')
  const firstNumber = takeNumbers(tx, project.id, 'requirement', lines.length)
  const parents: number[] = []
  const positions = new Map<number | null, number>()
  lines.forEach(({ title, depth }, index) => {
    const parentId = depth === 0 ? body.under : (parents[depth - 1] ?? body.under)
    const position = (positions.get(parentId) ?? lastPosition(tx, project.id, parentId)) + 1
    positions.set(parentId, position)
    const id = addRequirement(tx, { projectId: project.id, number: firstNumber + index, parentId, position, title }, by)
    if (body.release !== null) setTargets(tx, id, [{ release: body.release, iteration: body.iteration }])
    parents[depth] = id
    context.change({ kind: 'requirement', id, ref: keyOf('requirement', firstNumber + index), action: 'created' })
  })
  return { keys: lines.map((_, index) => keyOf('requirement', firstNumber + index)) }
}

/** Lines that cannot be stored are named by their place, and nothing is stored. */
export function refuseLines(lines: readonly { readonly title: string }[]): void {
  if (lines.length === 0) throw new Refusal('invalid', 'There is no line to store. Write at least one title.')
  if (lines.length > most)
    throw new Refusal(
      'too-large',
      `These are ${lines.length} lines; at most ${most} are stored in one act. Nothing was stored.`,
    )
  const long = lines.findIndex(({ title }) => title.length > 300)
  if (long >= 0)
    throw new Refusal(
      'invalid',
      `Line ${long + 1} is longer than 300 characters: “${lines[long]?.title.slice(0, 40)}…”. Nothing was stored.`,
    )
}
