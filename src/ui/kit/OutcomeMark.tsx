const shapes = {
  met: { d: 'M3 8.5 6.5 12 13 4.5', colour: 'var(--verdict-passed)' },
  'not met': { d: 'M4 4l8 8M12 4l-8 8', colour: 'var(--danger)' },
  waived: { d: 'M2.2 8h1.4M7.3 8h1.4M12.4 8h1.4', colour: 'var(--warn)' },
  undecidable: { d: 'M5 6.2a3 3 0 1 1 4.3 2.7c-.9.4-1.3.9-1.3 1.7M8 13v.1', colour: 'var(--ink-2)' },
} as const

/** Whether something that is asked for holds, as a shape and a colour. */
export const OutcomeMark = ({ of }: { of: keyof typeof shapes }) => (
  <svg width="14" height="14" viewBox="0 0 16 16" role="img" aria-label={of} style={{ color: shapes[of].colour }}>
    <path d={shapes[of].d} fill="none" stroke="currentColor" strokeWidth="2.2" strokeLinecap="round" />
  </svg>
)
