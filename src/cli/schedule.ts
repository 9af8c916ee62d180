import type { Command } from 'commander'
import { level } from '#core/schedule/level.ts'
import { levelModel, selectModel, unknownThings } from '#core/schedule/models.ts'
import { select } from '#core/schedule/select.ts'
import { loadSolver } from '#server/schedule/solver.ts'
import { read, table, tell } from './model-file.ts'
import { print } from './print.ts'

export function addSchedule(program: Command): void {
  program
    .command('select <model>')
    .description('the items of most worth within the minutes there are')
    .option('--json', 'one JSON document')
    .action(async (file: string, options: { json?: boolean }) => {
      const model = await read(file, selectModel)
      const answer = select(model, await loadSolver())
      tell(unknownThings(model))
      const minutes = new Map(model.items.map((item) => [item.key, item.minutes]))
      print(options.json, answer, () => [
        ...table(
          ['', 'minutes', 'why'],
          answer.chosen.map((key) => [key, String(minutes.get(key)), answer.why[key] ?? '']),
        ),
        `${answer.chosen.length} of ${model.items.length} items, ${answer.minutes} of ${model.budget} minutes, worth ${answer.worth} of at most ${answer.bound}`,
      ])
    })
  program
    .command('level <model>')
    .description('items on people’s days: the most worth, with skills, seats, order and due days kept')
    .option('--json', 'one JSON document')
    .action(async (file: string, options: { json?: boolean }) => {
      const model = await read(file, levelModel)
      const answer = level(model, await loadSolver())
      print(options.json, answer, () => [
        ...table(
          ['', 'person', 'day', 'start'],
          answer.assigned.map(({ key, person, day, start }) => [key, person, day, clock(start)]),
        ),
        ...(answer.cut.length === 0
          ? []
          : [
              '',
              ...table(
                ['cut', 'why'],
                answer.cut.map(({ key, why }) => [key, why]),
              ),
            ]),
        `${answer.assigned.length} of ${model.items.length} items placed, worth ${rounded(answer.worth)} of at most ${rounded(answer.bound)}`,
      ])
    })
}

/** Hours and minutes since a day began. */
const clock = (minute: number): string =>
  `${Math.floor(minute / 60)}:${String(Math.floor(minute % 60)).padStart(2, '0')}`
const rounded = (of: number): number => Math.round(of * 100) / 100
