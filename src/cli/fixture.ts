import { type Command, InvalidArgumentError } from 'commander'
import { fillFixture } from '#demo/fixture.ts'
import { hashPassword } from '#server/http/sign-in.ts'
import { openData } from './data.ts'
import { print } from './print.ts'

const count = (text: string): number => {
  if (!/^\d{1,8}$/.test(text)) throw new InvalidArgumentError('a whole number')
  return Number(text)
}

export function addFixture(program: Command): void {
  program
    .command('fixture')
    .description('fill a data directory with large made-up data')
    .option('--cases <n>', 'cases', count, 50_000)
    .option('--attempts <n>', 'attempts', count, 1_000_000)
    .option('--requirements <n>', 'requirements', count, 5000)
    .option('--seed <n>', 'seed', count, 1)
    .option('--data <dir>', 'data directory', 'data/fixture')
    .option('--json', 'one JSON document')
    .action(
      async (options: {
        cases: number
        attempts: number
        requirements: number
        seed: number
        data: string
        json?: boolean
      }) => {
        const store = openData(options.data)
        const started = performance.now()
        await fillFixture(store.db, { ...options, now: Date.now(), hash: hashPassword })
        store.close()
        print(
          options.json,
          { cases: options.cases, attempts: options.attempts, seconds: (performance.now() - started) / 1000 },
          () => [
            `${options.cases} cases and ${options.attempts} attempts in ${options.data}, project LARGE, ${((performance.now() - started) / 1000).toFixed(1)} s; sign in as bench@rovant.example with ferry-2024`,
          ],
        )
      },
    )
}
