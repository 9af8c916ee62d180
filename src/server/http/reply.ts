import type { Contract } from '#core/lib/contract.ts'

/** In tests every answer is read by its own contract before it leaves. */
const checksAnswers = (): boolean => process.env['ROVANT_CHECK_ANSWERS'] === '1'

export const answerText = (contract: Contract, answer: unknown): string =>
  JSON.stringify(checksAnswers() ? contract.output.parse(answer) : answer)

export const replyText = (text: string): Response =>
  new Response(text, { status: 200, headers: { 'content-type': 'application/json', 'cache-control': 'no-store' } })

/** An answer that a thread wrote as text. */
export const replyWith = (contract: Contract, text: string): Response =>
  replyText(checksAnswers() ? answerText(contract, JSON.parse(text)) : text)

export const reply = (contract: Contract, answer: unknown): Response => replyText(answerText(contract, answer))
