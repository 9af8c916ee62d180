import type { Contract } from '#core/lib/contract.ts'

/** In tests every answer is read by its own contract before it leaves. */
const checksAnswers = (): boolean => process.env['ROVANT_CHECK_ANSWERS'] === '1'

export const answerText = (contract: Contract, answer: unknown): string =>
  JSON.stringify(checksAnswers() ? contract.output.parse(answer) : answer)

export const replyText = (text: string): Response =>
  new Response(text, { status: 200, headers: { 'content-type': 'application/json', 'cache-control': 'no-store' } })

export const reply = (contract: Contract, answer: unknown): Response => replyText(answerText(contract, answer))
