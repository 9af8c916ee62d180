import type { BoundariesAnswer } from './boundaries.ts'
import type { CombosAnswer } from './combos.ts'
import type { DecisionsAnswer } from './decisions.ts'
import type { DraftRow } from './draft-row.ts'
import type { Notice } from './models.ts'
import type { PathsAnswer } from './paths.ts'

export interface DraftStep {
  readonly action: string
  readonly expected: string
}

export interface Proposed {
  readonly row: DraftRow
  readonly why: string
  /** Targets it answers that nothing before it does. */
  readonly adds: number
  readonly negative: boolean
  readonly steps: readonly DraftStep[]
}

/** What has become of a row that was accepted: it still answers something, its case says the opposite of the model, it is no longer possible, or others answer all it does. */
export interface Standing {
  readonly state: 'kept' | 'changed' | 'gone' | 'spare'
  readonly why: string
}

type DraftDetail =
  | { readonly technique: 'boundaries'; readonly answer: BoundariesAnswer }
  | { readonly technique: 'combos'; readonly answer: CombosAnswer }
  | { readonly technique: 'decisions'; readonly answer: DecisionsAnswer }
  | { readonly technique: 'paths'; readonly answer: PathsAnswer }

export interface DraftAnswer {
  readonly proposed: readonly Proposed[]
  /** In the order of the accepted rows. */
  readonly standing: readonly Standing[]
  readonly targets: number
  /** Targets that accepted rows answer. */
  readonly answered: number
  /** What a target is called, for one and for many. */
  readonly unit: readonly [one: string, many: string]
  readonly notices: readonly Notice[]
  readonly detail: DraftDetail
}

export interface DraftProgress {
  /** Share of the targets that the rows hold so far. */
  readonly covered: number
  readonly rows: number
  readonly answer?: DraftAnswer
}

/** What a model asks of its cases. */
export interface Asking {
  /** Its targets, by name. */
  readonly all: ReadonlySet<string>
  /** Targets a row answers, and what else it would; a sentence where it is no longer possible. */
  readonly goals: (row: DraftRow) => readonly string[] | string
}

/** Of a row that nothing asks for. */
export const spare: Standing = { state: 'spare', why: 'answers nothing the model asks for now' }

/** Proposals that answer something open, and which accepted rows still answer something of their own. */
export function against(
  accepted: readonly DraftRow[],
  of: Asking,
): { readonly standing: Standing[]; readonly answered: Set<string> } {
  const answered = new Set<string>()
  const standing = accepted.map((row): Standing => {
    const goals = of.goals(row)
    if (typeof goals === 'string') return { state: 'gone', why: goals }
    const own = goals.filter((goal) => of.all.has(goal))
    const fresh = own.filter((goal) => !answered.has(goal)).length
    for (const goal of own) answered.add(goal)
    if (fresh > 0) return { state: 'kept', why: 'kept' }
    return {
      state: 'spare',
      why: own.length === 0 ? spare.why : 'others answer all it does',
    }
  })
  return { standing, answered }
}
