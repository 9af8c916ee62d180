import { useEffect } from 'react'
import { counted } from '#core/lib/figures.ts'
import { notify } from '#ui/kit/notices.tsx'

/** The desk sends its own, and what others have left. */
const onDesk = () => location.pathname.includes('/desk/')

/** Verdicts that a closed window could not send any more are sent by whatever page is opened next, and told. */
export function useLeftVerdicts(personId: string): void {
  useEffect(() => {
    const person = `rovant.outbox.${personId}`
    if (onDesk() || !Object.keys(localStorage).some((name) => name.startsWith(person))) return undefined
    let stop = () => {}
    let away = false
    let sent = 0
    // What sends is loaded only where something was left.
    void import('./outbox.ts').then(({ openOutbox }) => {
      if (away) return
      const box = openOutbox(person, {
        onStored: (_, __, { said }) => {
          sent += 1
          notify(
            said === ''
              ? `${counted(sent, 'verdict')} from a closed window ${sent === 1 ? 'is' : 'are'} stored now.`
              : said,
          )
        },
        onRefused: (_, problem) => notify(problem.detail, { tone: 'problem' }),
        onWaiting: () => {},
      })
      stop = box.stop
    })
    return () => {
      away = true
      stop()
    }
  }, [personId])
}
