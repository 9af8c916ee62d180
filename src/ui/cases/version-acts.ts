import { useEffect } from 'react'
import { type CaseSheet, cutVersion } from '#core/cases/contract.ts'
import { reviewCase } from '#core/review/contract.ts'
import { call } from '#ui/call.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { allStored, type Flush } from '#ui/shell/sending.ts'

/** Cutting and reviewing, with what is said about it; what is typed and not stored yet is stored first. */
export function useVersionActs(of: CaseSheet, flush: Flush) {
  const { key } = useHere()
  const cutting = useWrite(cutVersion)
  const reviewing = useWrite(reviewCase)
  const params = { key, ref: of.key }
  const cut = async (why: string) => {
    if (!(await allStored(flush))) return false
    const done = await cutting.attempt({ params, body: { why } })
    if (done)
      notify(done.cut ? `Version ${done.name} is cut.` : 'Nothing changed since the newest version, so none was cut.')
    return done !== null
  }
  const review = async (to: 'Draft' | 'In review' | 'Approved', people: string[], why: string) => {
    if (!(await allStored(flush))) return false
    const done = await reviewing.attempt({ params, body: { to, people, why } })
    if (done)
      notify(
        to === 'Approved'
          ? `Approved as version ${done.name}.`
          : to === 'In review'
            ? `Version ${done.name} waits for review${people.length === 0 ? '' : `; ${people.length === 1 ? 'one person is' : `${people.length} people are`} told`}.`
            : 'Sent back.',
      )
    return done !== null
  }
  return { cut, review }
}

/** A minor version is cut when the editor leaves the case, if what it says changed. */
export function useCutOnLeaving(of: CaseSheet): void {
  const { key, project } = useHere()
  useEffect(
    () => () => {
      if (project.role === 'viewer' || !of.unsaved || of.steps === 0) return
      void call(cutVersion, { params: { key, ref: of.key }, body: {}, keepalive: true }).catch(() => undefined)
    },
    [of.key, of.unsaved, key],
  )
}
