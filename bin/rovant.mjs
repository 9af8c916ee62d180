#!/usr/bin/env node
import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { ensureBuilt, ensureInstalled, home } from './set-up.mjs'

ensureInstalled()
ensureBuilt()
const child = spawn(
  process.execPath,
  ['--enable-source-maps', join(home, 'dist/cli/main.mjs'), ...process.argv.slice(2)],
  { stdio: 'inherit', env: { ...process.env, ROVANT_HOME: home } },
)
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal))
child.on('exit', (code, signal) => process.exit(signal ? 0 : (code ?? 1)))
