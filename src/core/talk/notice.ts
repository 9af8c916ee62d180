import type { Letter } from '#core/integrations/mail.ts'

/** Why something waits for a person to see; `late`: a verdict that came after the close of a run; `freed`: an item that was held; `planned`: items came to one's days. */
export const noticeKinds = ['mention', 'review', 'answer', 'suggestion', 'late', 'freed', 'planned'] as const
export type NoticeKind = (typeof noticeKinds)[number]

/** What a kind is called where people choose which of them come as a letter too. */
export const noticeNames: Readonly<Record<NoticeKind, string>> = {
  mention: 'Somebody names you with @ in a comment',
  review: 'Somebody asks you to review a case or a plan',
  answer: 'A version you asked about, or wrote, is approved or sent back',
  suggestion: 'Somebody suggests changes to your case, or answers yours',
  freed: 'What your item of a run waited for has come: a defect is repaired, or another item passes',
  planned: 'Items are put on your days, or moved there',
  late: 'A verdict comes after the close of a run, where you are a lead',
}

/** Kinds that are no act of somebody towards the reader, as the subject of a letter. */
const told: Readonly<Partial<Record<NoticeKind, string>>> = {
  late: 'a verdict after the close',
  freed: 'an item waits no more',
}

export interface ToldByLetter {
  readonly kind: NoticeKind
  readonly ref: string
  readonly text: string
  readonly from: string | null
  readonly project: string
  readonly to: Letter['to']
}

/** A notice as a letter; `base` is where people find this installation, if that is known. */
export function noticeLetter({ kind, ref, text, from, project, to }: ToldByLetter, base: string | null): Letter {
  const who = from ?? 'Somebody'
  const link = (path: string): string => (base === null ? '' : `\n${base}${path}`)
  return {
    to,
    subject: `${ref}: ${kind === 'mention' ? `${who} names you` : (told[kind] ?? `${who} ${text}`)}`
      .replace(/\s+/g, ' ')
      .slice(0, 150),
    text: [
      `Hello ${to.name},`,
      `${who}${kind === 'mention' || told[kind] ? ':' : ''} ${text}${link(`/p/${project}/${ref}`)}`,
      `It waits in your inbox too. You choose on your own page which notices come as letters.${link('/me')}`,
    ].join('\n\n'),
  }
}
