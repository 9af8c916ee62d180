import type { Command } from 'commander'
import { selectModel, unknownThings } from '#core/schedule/models.ts'
import { select } from '#core/schedule/select.ts'
import { read, table, tell } from './model-file.ts'
import { print } from './print.ts'

export function addSchedule(program: Command): void {
  program
    .command('select <model>')
    .description('the items of most worth within the minutes there are')
    .option('--json', 'one JSON document')
    .action(async (file: string, options: { json?: boolean }) => {
      const model = await read(file, selectModel)
      const answer = select(model)
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
}
