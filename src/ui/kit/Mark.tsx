import css from './Mark.module.css'

export const markNames = ['Passed', 'Failed', 'Blocked', 'Skipped', 'Inconclusive', 'Not run', 'In progress'] as const
export type MarkName = (typeof markNames)[number]

const markOf = (verdict: string): MarkName => markNames.find((name) => name === verdict) ?? 'Not run'
/** The token of a verdict's colour. */
export const markColour = (verdict: string): string =>
  `var(--verdict-${markOf(verdict).toLowerCase().replace(' ', '-')})`

/** A verdict as shape and colour, legible at 12 px and in grey: stale is the same shape hatched in a dashed outline. */
export function Mark({
  verdict,
  stale = false,
  size = 14,
  label,
}: {
  verdict: string
  stale?: boolean
  size?: number
  label?: string | false
}) {
  const name = markOf(verdict)
  const told =
    label === false
      ? { 'aria-hidden': true as const }
      : { role: 'img', 'aria-label': label ?? `${verdict}${stale ? ', stale' : ''}` }
  return (
    <svg
      className={css['mark']}
      width={size}
      height={size}
      viewBox="0 0 16 16"
      style={{ color: markColour(name) }}
      {...told}
    >
      {stale && <Hatch name={name} />}
      <Shape name={name} stale={stale} />
    </svg>
  )
}

const hatchOf = (name: MarkName): string => `stale-${name.replace(' ', '-')}`

/** A pattern takes its colour from where it is defined, so each verdict has its own. */
function Hatch({ name }: { name: MarkName }) {
  return (
    <defs>
      <pattern id={hatchOf(name)} width="3" height="3" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="3" height="3" fill="var(--surface)" />
        <rect width="1.5" height="3" fill="currentColor" />
      </pattern>
    </defs>
  )
}

function Shape({ name, stale }: { name: MarkName; stale: boolean }) {
  const fill = stale ? `url(#${hatchOf(name)})` : 'currentColor'
  const edge = stale ? { stroke: 'currentColor', strokeWidth: 1.4, strokeDasharray: '2.4 1.6' } : {}
  const on = stale ? 'var(--ink)' : 'var(--mark-ink)'
  switch (name) {
    case 'Passed':
      return (
        <g>
          <circle cx="8" cy="8" r="7" fill={fill} {...edge} />
          <path d="M4.6 8.2 7 10.6 11.4 5.6" fill="none" stroke={on} strokeWidth="2" />
        </g>
      )
    case 'Failed':
      return <path d="M8 .8 15.2 8 8 15.2.8 8Z" fill={fill} {...edge} />
    case 'Blocked':
      return (
        <g>
          <rect x="1.4" y="1.4" width="13.2" height="13.2" rx="2" fill={fill} {...edge} />
          <path d="M4.4 8h7.2" stroke={on} strokeWidth="2.4" />
        </g>
      )
    case 'Skipped':
      return (
        <g fill="none" stroke="currentColor" strokeWidth="1.8">
          <circle cx="8" cy="8" r="6.1" strokeDasharray={stale ? '2.4 1.6' : undefined} />
          <path d="M3.8 12.2 12.2 3.8" />
        </g>
      )
    case 'Inconclusive':
      return (
        <g>
          <circle
            cx="8"
            cy="8"
            r="6.3"
            fill="none"
            stroke="currentColor"
            strokeWidth="1.6"
            strokeDasharray={stale ? '2.4 1.6' : undefined}
          />
          <path d="M8 1.7a6.3 6.3 0 0 1 0 12.6Z" fill={fill} />
        </g>
      )
    case 'In progress':
      return (
        <g>
          <circle cx="8" cy="8" r="6.1" fill="none" stroke="currentColor" strokeWidth="1.8" />
          <path d="M8 8V1.9A6.1 6.1 0 0 1 14.1 8Z" fill="currentColor" />
        </g>
      )
    case 'Not run':
      return <circle cx="8" cy="8" r="6.1" fill="none" stroke="currentColor" strokeWidth="1.8" />
  }
}
