declare global {
  interface Window {
    /** What somebody wrote before the page's programs were there, by field; gone once they are. */
    typedBefore?: Map<EventTarget | null, string> | undefined
  }
}

type TextField = HTMLInputElement | HTMLTextAreaElement
const isTextField = (target: EventTarget | null): target is TextField =>
  target instanceof HTMLTextAreaElement || (target instanceof HTMLInputElement && target.type !== 'file')

/**
 * What was written before the page's programs were there is written again, so that they hear it: React puts back what the server
 * drew in some fields, and in others takes what stands there for that.
 */
export function hearTypedBefore(): void {
  const typed = [...(window.typedBefore ?? [])]
  window.typedBefore = undefined
  // One after the other, each on what the one before it made of the page.
  const next = () => {
    const [field, text] = typed.shift() ?? []
    if (field === undefined || text === undefined) return
    if (isTextField(field)) writeAgain(field, text)
    setTimeout(next)
  }
  setTimeout(next)
}

function writeAgain(field: TextField, text: string): void {
  if (!field.isConnected || text === field.defaultValue) return
  // React's own property notes what it believes to stand there; the browser's own puts the text past it.
  field.value = field.defaultValue
  Object.getOwnPropertyDescriptor(Object.getPrototypeOf(field), 'value')?.set?.call(field, text)
  field.dispatchEvent(new Event('input', { bubbles: true }))
}
