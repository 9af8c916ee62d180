import { type FileAnswer, sentenceOf } from '#ui/call.ts'
import { notify, showProgress } from '#ui/kit/notices.tsx'

/** Asks for a file, which may be stopped, and hands it to the browser; `told` says what was written. */
export async function takeFile(
  ask: (signal: AbortSignal) => Promise<FileAnswer>,
  told: (file: FileAnswer) => string,
): Promise<void> {
  const stopping = new AbortController()
  const { signal } = stopping
  const shown = showProgress('Writing the file …', () => stopping.abort())
  try {
    const file = await ask(signal)
    const link = document.createElement('a')
    link.href = URL.createObjectURL(file.blob)
    link.download = file.name
    link.click()
    URL.revokeObjectURL(link.href)
    notify(told(file))
  } catch (error) {
    if (signal.aborted) notify('Stopped; no file is written.')
    else notify(sentenceOf(error), { tone: 'problem' })
  } finally {
    shown.end()
  }
}
