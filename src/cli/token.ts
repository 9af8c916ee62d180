import { type Command, InvalidArgumentError, Option } from 'commander'
import { type TokenScope, tokenScopes } from '#core/people/token.ts'
import { createToken, dropToken } from '#server/people/keep-tokens.ts'
import { existingData } from './data.ts'
import { print } from './print.ts'

interface Asked {
  readonly person: string
  readonly name: string
  readonly project?: string
  readonly scope: TokenScope
  readonly days?: number
  readonly data: string
  readonly json?: boolean
}

const days = (text: string): number => {
  const number = Number(text)
  if (!Number.isInteger(number) || number < 1 || number > 3650)
    throw new InvalidArgumentError('days are a whole number from 1 to 3650')
  return number
}

export function addToken(program: Command): void {
  const token = program.command('token').description('API tokens')
  token
    .command('create')
    .requiredOption('--person <name>', 'name or e-mail')
    .requiredOption('--name <label>')
    .option('--project <key>', 'the one project it works for')
    .addOption(
      new Option('--scope <what>', 'what it may be used for')
        .choices(tokenScopes)
        .default('write' satisfies TokenScope),
    )
    .option('--days <n>', 'ends after so many days', days)
    .option('--data <dir>', 'data directory', 'data/main')
    .option('--json', 'one JSON document')
    .action((options: Asked) => {
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
