import { useEffect, useRef } from 'react'

/** A picture pasted anywhere on the desk belongs to the step that is open. */
export function usePastedFiles(attach: (file: File) => Promise<void>): void {
  const latest = useRef(attach)
  latest.current = attach
  useEffect(() => {
    const hear = (event: ClipboardEvent) => {
      const file = [...(event.clipboardData?.files ?? [])][0]
      if (!file) return
      event.preventDefault()
      void latest.current(file)
    }
    window.addEventListener('paste', hear)
    return () => window.removeEventListener('paste', hear)
  }, [])
}
