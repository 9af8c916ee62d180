import { Popover } from '@base-ui/react/popover'
import type { ReactNode } from 'react'
import css from './Pop.module.css'

/** A word that opens a small panel below it. */
export function Pop({
  label,
  title,
  children,
  open,
  onOpen,
}: {
  label: ReactNode
  title: string
  children: ReactNode
  open?: boolean
  onOpen?: (open: boolean) => void
}) {
  return (
    <Popover.Root {...(open !== undefined && { open })} {...(onOpen && { onOpenChange: onOpen })}>
      <Popover.Trigger className={css['trigger']}>{label}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Positioner sideOffset={6} align="start" style={{ zIndex: 30 }}>
          <Popover.Popup
            className={css['panel']}
            aria-label={title}
            onKeyDown={(event) => {
              if (event.key !== 'Escape') event.stopPropagation()
            }}
          >
            {children}
          </Popover.Popup>
        </Popover.Positioner>
      </Popover.Portal>
    </Popover.Root>
  )
}
