import type { ReactNode } from 'react'

/** The first column of every list of objects: key and title. */
export const KeyTitle = ({ of, children }: { of: { key: string; title: string }; children?: ReactNode }) => (
  <>
    <span className="key quiet">{of.key}</span>&ensp;{of.title}
    {children}
  </>
)

/** A value that wants to be looked at. */
export const Warn = ({ children }: { children: ReactNode }) => <b style={{ color: 'var(--danger)' }}>{children}</b>

/** A count that should not be nothing. */
export const Count = ({ of }: { of: number }) => (of === 0 ? <Warn>0</Warn> : of)
