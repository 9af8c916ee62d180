import { Command, CommanderError } from 'commander'
import { Refusal } from '#core/lib/refusal.ts'
import { version } from '#server/http/version.ts'
import { addBench } from './bench.ts'
import { addCoverage } from './coverage.ts'
import { addFiles } from './files.ts'
import { addFixture } from './fixture.ts'
import { addKeep } from './keep.ts'
import { addServe } from './serve.ts'
import { addTechniques } from './techniques.ts'
import { addToken } from './token.ts'

const program = new Command('rovant')
  .description('Design, plan, execute and report tests.')
  .version(version)
  .exitOverride()
  .showHelpAfterError('(--help tells more)')
for (const add of [addServe, addFiles, addCoverage, addKeep, addToken, addTechniques, addFixture, addBench])
  add(program)

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
    for (const { field, message } of error.detail.fields ?? []) process.stderr.write(`  ${field}: ${message}\n`)
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
