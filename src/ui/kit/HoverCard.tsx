import { PreviewCard } from '@base-ui/react/preview-card'
import type { ReactNode } from 'react'
import css from './HoverCard.module.css'

/** What something elsewhere says, shown while the pointer or the focus rests on its name. */
export function HoverCard({ card, children }: { card: ReactNode; children: ReactNode }) {
  return (
    <PreviewCard.Root>
      <PreviewCard.Trigger delay={250} render={<span className={css['trigger']} />}>
        {children}
      </PreviewCard.Trigger>
      <PreviewCard.Portal>
        <PreviewCard.Positioner sideOffset={6} align="start" style={{ zIndex: 30 }}>
          <PreviewCard.Popup className={css['card']}>{card}</PreviewCard.Popup>
        </PreviewCard.Positioner>
      </PreviewCard.Portal>
    </PreviewCard.Root>
  )
}
