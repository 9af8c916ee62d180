/** Why something waits for a person to see; `late`: a verdict that came after the close of a run. */
export const noticeKinds = ['mention', 'review', 'answer', 'suggestion', 'late'] as const
export type NoticeKind = (typeof noticeKinds)[number]
