import { type Clash, type ClashPlace } from '#core/cases/merge.ts'
import type { Content, Draft } from './draft.ts'

// Two wrote in one place: what is shown of it, and what choosing one of both makes of the draft.

/** A clash that waits to be decided; a step is told by its place on the page, since steps go on moving meanwhile. */
export interface OpenClash extends Clash {
  readonly row: string | null
}
export type Choice = 'mine' | 'theirs' | 'both'

export const openClash = (clash: Clash, { steps }: Draft): OpenClash => ({
  ...clash,
  row: clash.place.part === 'step' ? (steps[clash.place.at]?.row ?? null) : null,
})

const partNames = {
  preconditions: 'Before',
  rows: 'Data rows',
  needs: 'What it needs',
  environment: 'Environment',
  table: 'Data table',
} as const

/** `Step 2, expected`: where it is. */
export function placeName({ place, row }: OpenClash, { steps }: Draft): string {
  if (place.part !== 'step') return partNames[place.part]
  const at = steps.findIndex((step) => step.row === row)
  const step = at < 0 ? 'A step that is gone' : `Step ${at + 1}`
  return place.field === 'all' ? step : `${step}, ${place.field}`
}

/** Texts can stand one below the other; a routine, a table or a step that one took away cannot. */
export const canJoin = ({ place, mine, theirs }: OpenClash): boolean =>
  mine !== null &&
  theirs !== null &&
  (place.part === 'preconditions' || (place.part === 'step' && place.field !== 'values'))

/** The draft after one of both was chosen; it says what is mine until then. */
export function decided(draft: Draft, clash: OpenClash, choice: Choice, theirs: Content): Draft {
  const { place, row } = clash
  if (place.part !== 'step')
    return choice === 'mine' ? draft : { ...draft, ...partDecided(place.part, clash, choice, theirs) }
  const at = draft.steps.findIndex((step) => step.row === row)
  const step = draft.steps[at]
  if (!step) return draft
  if (place.field === 'all') {
    const stays = choice === 'theirs' ? clash.theirs !== null : clash.mine !== null
    return stays ? draft : { ...draft, steps: draft.steps.toSpliced(at, 1) }
  }
  if (choice === 'mine') return draft
  const other = theirs.steps.find(({ id }) => id !== null && id === step.id)
  const taken =
    place.field === 'values'
      ? { use: other?.use ?? step.use, action: other?.action ?? step.action }
      : { [place.field]: choice === 'both' ? joined(clash) : (clash.theirs ?? '') }
  return { ...draft, steps: draft.steps.with(at, { ...step, ...taken }) }
}

function partDecided(
  part: Exclude<ClashPlace['part'], 'step'>,
  clash: OpenClash,
  choice: Choice,
  theirs: Content,
): Partial<Draft> {
  if (part === 'preconditions') return { preconditions: choice === 'both' ? joined(clash) : (clash.theirs ?? '') }
  return { [part]: theirs[part] }
}

/** Theirs, then mine; as paragraphs where one of both has marks. */
function joined({ mine, theirs }: OpenClash): string {
  const texts = [theirs ?? '', mine ?? '']
  if (!texts.some((text) => /<[a-z]/i.test(text))) return texts.join('\n')
  return texts.map((text) => (/^<(p|ul|ol|h|table)/i.test(text) ? text : `<p>${text}</p>`)).join('')
}
