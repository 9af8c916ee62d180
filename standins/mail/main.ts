import { createServer, type ServerResponse } from 'node:http'
import { simpleParser } from 'mailparser'
import { SMTPServer } from 'smtp-server'

/**
 * A stand-in for a mail server: it takes every letter by SMTP, sends none on, and shows them on a page.
 * `GET /letters` answers them as JSON, newest first; `POST /behave {"refuse": 2}` makes it refuse the next ones, `DELETE /letters` empties it.
 */
export interface KeptLetter {
  readonly to: string
  readonly from: string
  readonly subject: string
  readonly text: string
  readonly at: string
}

const most = 500

/** Starts it; `port` is that of the page. Answers where letters are sent to and where they are read. */
export async function startMail({ port }: { port: number }): Promise<{
  smtp: string
  page: string
  stop: () => Promise<void>
}> {
  const letters: KeptLetter[] = []
  const manner = { refuse: 0 }
  const smtp = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS'],
    logger: false,
    onData: (stream, _session, done) => {
      if (manner.refuse > 0) {
        manner.refuse -= 1
        stream.resume()
        done(new Error('this mailbox is full'))
        return
      }
      simpleParser(stream).then(
        ({ to, from, subject, text, date }) => {
          const named = Array.isArray(to) ? to.map((each) => each.text).join(', ') : (to?.text ?? '')
          letters.unshift({
            to: named,
            from: from?.text ?? '',
            subject: subject ?? '',
            text: text ?? '',
            at: (date ?? new Date()).toISOString(),
          })
          letters.splice(most)
          done()
        },
        (error: unknown) => done(error instanceof Error ? error : new Error(String(error))),
      )
    },
  })
  await new Promise<void>((resolve) => void smtp.listen(0, '127.0.0.1', resolve))
  const page = createServer((request, response) => {
    if (request.method === 'DELETE') letters.length = 0
    if (request.method === 'POST') {
      manner.refuse = Number(new URL(request.url ?? '/', 'http://mail').searchParams.get('refuse') ?? 0)
      return send(response, 'application/json', JSON.stringify(manner))
    }
    if (request.url === '/letters') return send(response, 'application/json', JSON.stringify(letters))
    send(response, 'text/html; charset=utf-8', pageOf(letters))
  })
  await new Promise<void>((resolve) => void page.listen(port, '127.0.0.1', resolve))
  return {
    smtp: `smtp://127.0.0.1:${portOf(smtp.server.address())}`,
    page: `http://127.0.0.1:${portOf(page.address())}`,
    stop: async () => {
      await new Promise<void>((resolve) => void smtp.close(() => resolve()))
      await new Promise<void>((resolve) => void page.close(() => resolve()))
    },
  }
}

const portOf = (address: ReturnType<SMTPServer['server']['address']>): number =>
  typeof address === 'object' && address ? address.port : 0

function send(response: ServerResponse, type: string, body: string): void {
  response.writeHead(200, { 'content-type': type, 'cache-control': 'no-store' })
  response.end(body)
}

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (sign) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[sign] ?? sign)
const linked = (text: string): string =>
  escaped(text).replace(/https?:\/\/\S+/g, (link) => `<a href="${link}">${link}</a>`)

const pageOf = (letters: readonly KeptLetter[]): string => `<!doctype html>
<html lang="en">
<meta charset="utf-8" />
<title>Letters</title>
<style>
  body { font: 15px/1.5 sans-serif; max-width: 720px; margin: 32px auto; padding: 0 16px; color: #222; background: #f4f4f0 }
  article { background: #fff; border: 1px solid #ccc; padding: 12px 16px; margin-block: 12px }
  pre { white-space: pre-wrap; font: inherit }
</style>
<h1>Letters</h1>
<p>A stand-in for a mail server: nothing leaves this machine. ${letters.length === 0 ? 'No letter has come yet.' : ''}</p>
${letters.map(({ to, subject, text, at }) => `<article><h2>${escaped(subject)}</h2><p>to ${escaped(to)}, ${escaped(at)}</p><pre>${linked(text)}</pre></article>`).join('\n')}
</html>`
