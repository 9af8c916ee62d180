import { readGoing, stopGoing } from '#core/history/contract.ts'
import { call } from '#ui/call.ts'
import { showProgress } from '#ui/kit/notices.tsx'
import { useHere } from './here.ts'

const lookEvery = 400

/** Does a long act by its own request, `job` being its name; one that takes more than a moment says how far it is, and can be stopped. */
export function useGoing(): <T>(told: string, act: (job: string) => Promise<T>) => Promise<T> {
  const { key } = useHere()
  return async (told, act) => {
    const params = { key, job: crypto.randomUUID() }
    // What has not begun or has just ended is not known to the server; the act’s own answer says all.
    const nothing = () => undefined
    const shown = showProgress(told, () => void call(stopGoing, { params }).catch(nothing))
    const look = () =>
      call(readGoing, { params })
        .then(({ done, of }) => of > 0 && shown.set(done / of))
        .catch(nothing)
    const timer = setInterval(() => void look(), lookEvery)
    try {
      return await act(params.job)
    } finally {
      clearInterval(timer)
      shown.end()
    }
  }
}
