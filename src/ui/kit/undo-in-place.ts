/**
 * The browser's own undo goes on into other fields once the one that has the focus has nothing left to take back; with this it
 * stays where one writes. Source: Input Events Level 2, `historyUndo` and `historyRedo`.
 */
export function keepUndoInPlace(): () => void {
  const hear = (event: InputEvent) => {
    const { target } = event
    const elsewhere = target instanceof Node && !target.contains(document.activeElement)
    if (/^history(Undo|Redo)$/.test(event.inputType) && elsewhere) event.preventDefault()
  }
  document.addEventListener('beforeinput', hear)
  return () => document.removeEventListener('beforeinput', hear)
}
