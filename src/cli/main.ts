import { Command, CommanderError } from 'commander'
import { Refusal } from '#core/lib/refusal.ts'
import { version } from '#server/http/version.ts'

// What is written, data and exports alike, is for whoever runs this alone.
process.umask(0o077)

type Add = (program: Command) => void
/** Where each command is; what one does not ask for is not loaded. */
const commands: readonly { readonly names: readonly string[]; readonly add: () => Promise<Add> }[] = [
  { names: ['serve', 'demo'], add: async () => (await import('./serve.ts')).addServe },
  { names: ['inspect', 'import', 'export'], add: async () => (await import('./files.ts')).addFiles },
  { names: ['coverage', 'readiness'], add: async () => (await import('./reports.ts')).addReports },
  {
    names: ['backup', 'keep-backups', 'restore', 'drill', 'verify'],
    add: async () => (await import('./keep.ts')).addKeep,
  },
  { names: ['evidence'], add: async () => (await import('./evidence.ts')).addEvidence },
  { names: ['let-in'], add: async () => (await import('./let-in.ts')).addLetIn },
  { names: ['token'], add: async () => (await import('./token.ts')).addToken },
  {
    names: ['combos', 'boundaries', 'decisions', 'paths'],
    add: async () => (await import('./techniques.ts')).addTechniques,
  },
  { names: ['select', 'level'], add: async () => (await import('./schedule.ts')).addSchedule },
  { names: ['fixture'], add: async () => (await import('./fixture.ts')).addFixture },
  { names: ['bench'], add: async () => (await import('./bench.ts')).addBench },
]

const program = new Command('rovant')
  .description('Design, plan, execute and report tests.')
  .version(version)
  .exitOverride()
  .showHelpAfterError('(--help tells more)')
const asked = commands.filter(({ names }) => names.includes(process.argv[2] ?? ''))
for (const { add } of asked.length > 0 ? asked : commands) (await add())(program)

try {
  await program.parseAsync()
} catch (error) {
  process.exitCode = exitCodeOf(error)
}

/** 0 done, 1 the work failed or found a problem, 2 wrong use. Bad input is one sentence, never a stack. */
function exitCodeOf(error: unknown): number {
  if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2
  if (error instanceof Refusal) {
    process.stderr.write(`${error.sentence}\n`)
    for (const { field, message } of error.detail.fields ?? []) {
      // What the sentence says already is not said again; where it is, is.
      const said = error.sentence.includes(message.replace(/\.$/, ''))
      if (!said) process.stderr.write(`  ${field}: ${message}\n`)
      else if (!error.sentence.includes(field)) process.stderr.write(`  (${field})\n`)
    }
    return 1
  }
  if (
    error instanceof Error &&
    'code' in error &&
    (error.code === 'ENOENT' || error.code === 'EACCES' || error.code === 'EISDIR')
  ) {
    process.stderr.write(
      `${'path' in error ? String(error.path) : 'The file'}: ${error.code === 'ENOENT' ? 'there is no such file' : error.code === 'EISDIR' ? 'is a folder, not a file' : 'may not be read'}.\n`,
    )
    return 1
  }
  process.stderr.write(`${error instanceof Error ? (error.stack ?? error.message) : String(error)}\n`)
  return 1
}
