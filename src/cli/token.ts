import type { Command } from 'commander'
import { createToken, dropToken } from '#server/people/keep-tokens.ts'
import { existingData } from './data.ts'
import { print } from './print.ts'

export function addToken(program: Command): void {
  const token = program.command('token').description('API tokens')
  token
    .command('create')
    .requiredOption('--person <name>', 'name or e-mail')
    .requiredOption('--name <label>')
    .option('--project <key>')
    .option('--data <dir>', 'data directory', 'data/main')
    .option('--json', 'one JSON document')
    .action((options: { person: string; name: string; project?: string; data: string; json?: boolean }) => {
      const made = createToken(existingData(options.data).db, options)
      print(options.json, { token: made }, () => [made, 'Keep it: it is not shown again.'])
    })
  token
    .command('revoke')
    .requiredOption('--person <name>', 'name or e-mail')
    .requiredOption('--name <label>')
    .option('--data <dir>', 'data directory', 'data/main')
    .option('--json', 'one JSON document')
    .action((options: { person: string; name: string; data: string; json?: boolean }) => {
      dropToken(existingData(options.data).db, options)
      print(options.json, { ok: true }, () => [`The token “${options.name}” is revoked.`])
    })
}
