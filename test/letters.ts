import type { Letter, Mail } from '#core/integrations/mail.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { App } from './app.ts'

/** A mail server in this process: what was sent can be read, and it can be made to refuse. */
export function withMail(app: Pick<App, 'services'>): { letters: Letter[]; refuse: (refuses: boolean) => void } {
  const letters: Letter[] = []
  let refuses = false
  const mail: Mail = {
    isSetUp: true,
    send: async (letter) => {
      if (refuses) throw new Refusal('refused', 'The mail server is full.')
      letters.push(letter)
    },
  }
  Object.assign(app.services, { mail })
  return {
    letters,
    refuse: (to) => {
      refuses = to
    },
  }
}

/** What a one-time link bears, out of a letter or an answer. */
export const secretIn = (text: string | null | undefined): string => /#([\w-]+)/.exec(text ?? '')?.[1] ?? ''
