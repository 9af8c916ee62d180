import type { Command } from 'commander'
import { letIn } from '#server/people/let-in.ts'
import { existingData } from './data.ts'
import { print } from './print.ts'

interface Asked {
  readonly person: string
  readonly administrator?: boolean
  readonly data: string
  readonly json?: boolean
}

export function addLetIn(program: Command): void {
  program
    .command('let-in')
    .description('a one-time link for somebody who cannot come in any more; their second factor is taken away')
    .requiredOption('--person <name>', 'name or e-mail')
    .option('--administrator', 'they become an administrator too')
    .option('--data <dir>', 'data directory', 'data/main')
    .option('--json', 'one JSON document')
    .action(({ person, administrator = false, data, json }: Asked) => {
      const path = letIn(existingData(data).db, { person, administrator })
      print(json, { path }, () => [
        `Open this behind the address of the installation within two hours; it works once:`,
        path,
      ])
    })
}
