/** Colours by role, as `tokens.css` defines them in both themes. */
export const tokens = [
  'ground',
  'surface',
  'sunken',
  'line',
  'line-strong',
  'ink',
  'ink-2',
  'ink-3',
  'frame',
  'frame-ink',
  'frame-ink-2',
  'frame-line',
  'lamp',
  'lamp-soft',
  'action',
  'action-ink',
  'action-soft',
  'danger',
  'danger-soft',
  'value',
  'warn',
  'mark-ink',
  'verdict-passed',
  'verdict-failed',
  'verdict-blocked',
  'verdict-skipped',
  'verdict-inconclusive',
  'verdict-not-run',
  'verdict-in-progress',
] as const
export type Token = (typeof tokens)[number]

export interface TokenPair {
  readonly on: Token
  readonly front: Token
  /** Text needs 4.5 to 1, marks and large text 3 to 1. */
  readonly least: 4.5 | 3
}

const text = (front: Token, ...grounds: Token[]): TokenPair[] => grounds.map((on) => ({ on, front, least: 4.5 }))
const mark = (front: Token, ...grounds: Token[]): TokenPair[] => grounds.map((on) => ({ on, front, least: 3 }))
const paper: Token[] = ['ground', 'surface', 'sunken']

/** Every pair of colours that stands on another somewhere in the interface. */
export const tokenPairs: readonly TokenPair[] = [
  ...text('ink', ...paper, 'action-soft', 'danger-soft', 'value', 'lamp-soft'),
  ...text('ink-2', ...paper, 'action-soft', 'lamp-soft'),
  ...text('action', ...paper, 'action-soft'),
  ...text('action-ink', 'action'),
  ...text('danger', ...paper, 'danger-soft'),
  ...text('warn', ...paper),
  ...text('frame-ink', 'frame'),
  ...text('frame-ink-2', 'frame'),
  ...text('lamp', 'frame'),
  ...mark('ink-3', 'ground', 'surface'),
  ...(
    [
      'verdict-passed',
      'verdict-failed',
      'verdict-blocked',
      'verdict-skipped',
      'verdict-inconclusive',
      'verdict-not-run',
      'verdict-in-progress',
    ] as const
  ).flatMap((front) => mark(front, ...paper, 'action-soft')),
  ...(['verdict-passed', 'verdict-blocked', 'verdict-failed'] as const).flatMap((on) => mark('mark-ink', on)),
]
