import type { Sign, Tint } from '#core/lib/verdict.ts'
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
  own,
}: {
  verdict: string
  stale?: boolean
  size?: number
  label?: string | false
  /** How a project's own verdict is told from what it counts as. */
  own?: { readonly sign: Sign; readonly tint: Tint } | undefined
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
      {own && <OwnSign {...own} />}
    </svg>
  )
}

/** A tint is one of the colours verdicts have, which are legible on every surface. */
const tintOf: Readonly<Record<Tint, MarkName>> = {
  grey: 'Skipped',
  blue: 'In progress',
  violet: 'Blocked',
  amber: 'Inconclusive',
  teal: 'Passed',
  rose: 'Failed',
}
const signPaths: Readonly<Record<Sign, string>> = {
  dot: 'M12.4 9.8a2.6 2.6 0 1 1 0 5.2a2.6 2.6 0 1 1 0-5.2Z',
  bar: 'M9.4 11h6v2.8h-6Z',
  ring: 'M12.4 9.4a3 3 0 1 1 0 6a3 3 0 1 1 0-6ZM12.4 11.2a1.2 1.2 0 1 0 0 2.4a1.2 1.2 0 1 0 0-2.4Z',
  corner: 'M9.4 15.4h6v-6Z',
  cross: 'M11.3 9.4h2.2v1.9h1.9v2.2h-1.9v1.9h-2.2v-1.9H9.4v-2.2h1.9Z',
  wave: 'M9.2 14.6c1.2-4.6 2.2-1.4 3.2-2.4s1.6-2.6 3-2.6v2.6c-1.2 0-1.4 3-3 3s-1.4-1.6-1.8-.6Z',
}

/** At the lower corner, kept clear of the mark by the colour of the surface. */
const OwnSign = ({ sign, tint }: { sign: Sign; tint: Tint }) => (
  <path
    d={signPaths[sign]}
    fill={markColour(tintOf[tint])}
    stroke="var(--surface)"
    strokeWidth="1.6"
    paintOrder="stroke"
  />
)

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
