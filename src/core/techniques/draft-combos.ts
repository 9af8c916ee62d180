import { counted } from '#core/lib/figures.ts'
import { combosProblem } from './combos-model.ts'
import { survey } from './combos-survey.ts'
import { combine, type CombosAnswer } from './combos.ts'
import type { DraftAnswer, DraftProgress, Proposed, Standing } from './draft-answer.ts'
import { type DraftRow, rowText, sameRow } from './draft-row.ts'
import { heldBy } from './held-tuples.ts'
import type { CombosModel } from './models.ts'

const tupleNames = ['', 'value', 'pair', 'triple', 'quadruple', 'quintuple', 'sextuple']

export function* combosDraft(body: CombosModel, accepted: readonly DraftRow[]): Generator<DraftProgress, DraftAnswer> {
  const problem = combosProblem(body)
  const names = problem.names
  const known = survey(problem, accepted)
  const held = heldBy(problem, known)
  const refusal = new Map(
    held.refused.map(({ at, message }) => [
      Number(/\d+/.exec(at)?.[0]),
      message.replace(/^Row \d+ is not counted: /, ''),
    ]),
  )
  const standing = accepted.map((row, at): Standing => {
    const missing = names.find((name) => row[name] === undefined)
    if (refusal.has(at)) return { state: 'gone', why: refusal.get(at)! }
    return { state: 'kept', why: missing ? `says nothing of ${missing}` : 'kept' }
  })
  const usable = accepted.filter((_, at) => !refusal.has(at))
  const one = tupleNames[problem.strength]!
  const finish = (answer: CombosAnswer): DraftAnswer => {
    const ordinaryKept = usable.filter(
      (row) => !names.some((name) => body.negative[name]?.includes(row[name] ?? '')),
    ).length
    const ends = answer.rows.length - answer.negative
    const fresh = answer.rows
      .map((row, at) => ({ row, at }))
      .filter(({ row, at }) => at >= ordinaryKept && !(at >= ends && usable.some((own) => sameRow(own, row))))
    return {
      proposed: fresh.map(({ row, at }): Proposed => {
        const bad = at >= ends ? names.find((name) => body.negative[name]?.includes(row[name]!)) : undefined
        return {
          row,
          adds: answer.adds[at]!,
          negative: bad !== undefined,
          why: bad ? `${bad} ${row[bad]!}, alone among ordinary values` : counted(answer.adds[at]!, `new ${one}`),
          steps: [{ action: `With ${rowText(row)}`, expected: bad ? `${row[bad]!} is refused` : '' }],
        }
      }),
      standing,
      targets: held.targets,
      answered: held.answered,
      unit: [one, `${one}s`],
      notices: answer.notices.filter(({ at }) => !at.startsWith('existing')),
      detail: { technique: 'combos', answer },
    }
  }
  const search = combine(problem, {}, known)
  for (;;) {
    const step = search.next()
    if (step.done) return finish(step.value)
    const { covered, rows, answer } = step.value
    yield { covered, rows, ...(answer && { answer: finish(answer) }) }
  }
}
