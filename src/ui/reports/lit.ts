import type { BoardAnswer } from '#core/reports/contract.ts'

export interface Lit {
  readonly all: boolean
  readonly has: (id: string) => boolean
}

/** Which rows of the board are lit: all, those of a gap, or all that hangs on the chosen one. */
export function litBy(data: BoardAnswer, chosen: string | null, gap: string | null): Lit {
  if (gap !== null)
    return some(
      rowsOf(data)
        .filter((row) => row.gap.includes(gap))
        .map(({ id }) => id),
    )
  if (chosen === null) return { all: true, has: () => true }
  return some(connected(data, chosen))
}

const some = (ids: Iterable<string>): Lit => {
  const set = new Set(ids)
  return { all: false, has: (id) => set.has(id) }
}

const rowsOf = (data: BoardAnswer) => [
  ...data.requirements.map(({ id, gap }) => ({ id: `r${id}`, gap })),
  ...data.cases.map(({ id, gap }) => ({ id: `c${id}`, gap })),
  ...data.results.map(({ id, gap }) => ({ id: `s${id}`, gap })),
  ...data.defects.map(({ id, gap }) => ({ id: `d${id}`, gap })),
]

/** One step of the thread at a time, outwards from the chosen lane: a case lights its requirements, not their other cases. */
function connected(data: BoardAnswer, chosen: string): Set<string> {
  const id = chosen.slice(1)
  const lane = chosen[0]
  const cases = new Set<number>(
    lane === 'c'
      ? [Number(id)]
      : lane === 's'
        ? data.results.filter((row) => row.id === id).map((row) => row.case)
        : lane === 'r'
          ? data.links.filter(([requirement]) => requirement === Number(id)).map(([, own]) => own)
          : data.defectCases.filter(([defect]) => defect === Number(id)).map(([, own]) => own),
  )
  const requirements =
    lane === 'r'
      ? [Number(id)]
      : lane === 'd'
        ? data.defectRequirements.filter(([defect]) => defect === Number(id)).map(([, own]) => own)
        : data.links.filter(([, own]) => cases.has(own)).map(([requirement]) => requirement)
  const defects =
    lane === 'd' ? [Number(id)] : data.defectCases.filter(([, own]) => cases.has(own)).map(([defect]) => defect)
  const results = lane === 's' ? [id] : data.results.filter((row) => cases.has(row.case)).map((row) => row.id)
  return new Set([
    ...requirements.map((each) => `r${each}`),
    ...[...cases].map((each) => `c${each}`),
    ...results.map((each) => `s${each}`),
    ...defects.map((each) => `d${each}`),
  ])
}
