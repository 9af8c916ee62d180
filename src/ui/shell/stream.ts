import type { StreamNews } from './stream.worker.ts'
import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'

const pause = 900

/** Hears what changes in a project and asks again what is shown, at most about once a second. Answers whether the stream is up. */
export function useStream(project: string, muted = false): boolean {
  const client = useQueryClient()
  const [up, setUp] = useState(true)
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined
    const again = () => {
      timer ??= setTimeout(() => {
        timer = undefined
        void client.invalidateQueries({ predicate: ({ queryKey }) => !(muted && queryKey[0] === 'readDesk') })
      }, pause)
    }
    const worker = new SharedWorker(new URL('./stream.worker.ts', import.meta.url), {
      type: 'module',
      name: 'rovant-stream',
    })
    worker.port.onmessage = ({ data }: MessageEvent<StreamNews>) => {
      if (data.kind === 'up') setUp(true)
      if (data.kind === 'down') setUp(false)
      if (data.kind === 'change' || data.kind === 'behind') again()
    }
    worker.port.start()
    worker.port.postMessage({ project })
    const leave = () => worker.port.postMessage({ project, leave: true })
    window.addEventListener('pagehide', leave)
    return () => {
      clearTimeout(timer)
      leave()
      window.removeEventListener('pagehide', leave)
    }
  }, [project, client, muted])
  return up
}
