import { existsSync, readFileSync, rmSync } from 'node:fs'
import { createServer, type RequestListener } from 'node:http'
import { createServer as createTlsServer } from 'node:https'
import { join } from 'node:path'
import { type Command, InvalidArgumentError } from 'commander'
import sirv from 'sirv'
import { Refusal } from '#core/lib/refusal.ts'
import { fillDemo } from '#demo/fill.ts'
import { trackerIssues } from '#demo/tracker-issues.ts'
import { connectTracker } from '#server/projects/update-project.ts'
import { offerFirstSetUp } from '#server/installation/offer-set-up.ts'
import { hashPassword } from '#server/http/sign-in.ts'
import { home, openToServe } from './data.ts'

const port = (text: string): number => {
  const number = Number(text)
  if (!Number.isInteger(number) || number < 0 || number > 65_535)
    throw new InvalidArgumentError('a port is a number up to 65535')
  return number
}

export function addServe(program: Command): void {
  program
    .command('serve')
    .description('start the application on a data directory')
    .option('--port <n>', 'port', port, 4321)
    .option('--host <name>', 'address to listen on', '127.0.0.1')
    .option('--data <dir>', 'data directory', 'data/main')
    .option('--cert <file>', 'TLS certificate')
    .option('--key <file>', 'TLS key')
    .action(async (options: { port: number; host: string; data: string; cert?: string; key?: string }) => {
      const store = openToServe(options.data)
      const code = await offerFirstSetUp(store)
      store.close()
      await serve({
        ...options,
        say: (address) =>
          process.stdout.write(
            `Rovant is at ${address}\n${code ? `No one can sign in yet. Set up the first administrator at ${address}/set-up with the code ${code}\n` : ''}`,
          ),
      })
    })
  program
    .command('demo')
    .description('fill a demo project and start the application on it')
    .option('--port <n>', 'port', port, 4321)
    .option('--host <name>', 'address to listen on', '127.0.0.1')
    .option('--data <dir>', 'data directory', 'data/demo')
    .option('--fresh', 'start from new demo data')
    .action(async (options: { port: number; host: string; data: string; fresh?: boolean }) => {
      if (options.fresh) rmSync(options.data, { recursive: true, force: true })
      const store = openToServe(options.data)
      const people = await fillDemo(store.db, {
        now: Date.now(),
        hash: hashPassword,
        evidence: join(options.data, 'evidence'),
        pictures: join(home, 'demo/pictures'),
      })
      const tracker = await startStandIn(trackerIssues(store.db, 'FERRY'))
      connectTracker(store.db, 'FERRY', { name: 'Harbour board', url: tracker.url, token: standInToken })
      store.close()
      await serve({
        ...options,
        say: (address) =>
          process.stdout.write(
            [
              `Rovant is at ${address}`,
              `A simulated tracker, “Harbour board”, is at ${tracker.url}`,
              'Sample sign-ins, all with the password ferry-2024:',
              ...people.map(({ email, name, roles }) => `  ${email.padEnd(28)} ${name.padEnd(16)} ${roles}`),
              '',
            ].join('\n'),
          ),
      })
    })
}

interface Serving {
  readonly port: number
  readonly host: string
  readonly data: string
  readonly cert?: string
  readonly key?: string
  readonly say: (address: string) => void
}

/** A part of the build, which the compiler cannot see. */
const built = async <Part>(file: string): Promise<Part> => (await import(join(home, file))) as Part

const standInToken = 'harbour-token'

async function startStandIn(issues: ReturnType<typeof trackerIssues>): Promise<{ url: string }> {
  const standIn = await built<{
    startTracker: (of: { port: number; token: string; issues: typeof issues }) => Promise<{ url: string }>
  }>('dist/standins/tracker.mjs')
  return standIn.startTracker({ port: 0, token: standInToken, issues })
}

/** Serves the built application: its files with their compressed twins, then its pages and API. */
async function serve(of: Serving): Promise<void> {
  process.env['ROVANT_DATA'] = of.data
  process.env['ROVANT_HOME'] = home
  if (of.cert) process.env['ROVANT_TLS'] = '1'
  const entry = await built<{ handler: RequestListener }>('dist/server/entry.mjs')
  const client = join(home, 'dist/client')
  const assets = sirv(client, { brotli: true, gzip: true, immutable: true, maxAge: 31_536_000, etag: true })
  // The list of files is read once; one that a newer build took away since would otherwise end the process when it is opened.
  const gone = (path: string): boolean => path.startsWith('/_astro/') && !existsSync(join(client, path.split('?')[0]!))
  const listener: RequestListener = (request, response) =>
    void (gone(request.url ?? '')
      ? response.writeHead(404, { 'cache-control': 'no-store' }).end()
      : assets(request, response, () => entry.handler(request, response)))
  const server =
    of.cert && of.key
      ? createTlsServer({ cert: readFileSync(of.cert), key: readFileSync(of.key) }, listener)
      : createServer(listener)
  // An open event stream would otherwise be cut as an idle request.
  server.requestTimeout = 0
  await new Promise<void>((resolve, reject) => {
    server.once('error', (error) =>
      reject(
        'code' in error && error.code === 'EADDRINUSE'
          ? new Refusal('refused', `Port ${of.port} is taken; name another with --port.`)
          : error,
      ),
    )
    server.listen(of.port, of.host, resolve)
  })
  const address = server.address()
  of.say(
    `${of.cert ? 'https' : 'http'}://${of.host === '0.0.0.0' ? 'localhost' : of.host}:${typeof address === 'object' && address ? address.port : of.port}`,
  )
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => process.exit(0))
}
