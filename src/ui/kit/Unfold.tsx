import { type ReactNode, useEffect, useRef, useState } from 'react'

/** A line that unfolds what is below it, which is drawn when it is unfolded. */
export function Unfold({
  summary,
  className,
  children,
}: {
  summary: ReactNode
  className?: string | undefined
  children: ReactNode
}) {
  const own = useRef<HTMLDetailsElement>(null)
  const [open, setOpen] = useState(false)
  // The browser unfolds it also before the page's programs are there.
  useEffect(() => setOpen(own.current?.open === true), [])
  return (
    <details
      ref={own}
      className={className}
      suppressHydrationWarning
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary>{summary}</summary>
      {open && children}
    </details>
  )
}
