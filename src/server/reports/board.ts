import { keyOf } from '#core/lib/key.ts'
import { defectState, isOpen } from '#core/defects/state.ts'
import type { BoardAnswer } from '#core/reports/contract.ts'
import { outlineOrder } from '#core/requirements/outline.ts'
import type { Db } from '#db/open.ts'
import { defectFacts } from '#db/reports/facts.ts'
import type { Knowledge } from './facts-cache.ts'
import { byNumber, casesAlone, numbers } from './known-cases.ts'

const mostOnBoard = 400

/** What is missing, in the words the board lights it by. */
const missing = (...of: (string | false)[]): string[] => of.filter((each) => each !== false)

/** Requirements, cases, results and defects with what ties them: the four lanes of the board. */
export function boardOf(db: Db, known: Knowledge, projectId: number): BoardAnswer {
  const order = outlineOrder(known.facts.requirements).map(({ place }) => place)
  const parents = new Set(known.facts.requirements.map(({ parent }) => parent))
  const linked = new Set(known.facts.links.map(({ requirement }) => requirement))
  const shown = order.filter(({ id }) => !parents.has(id) || linked.has(id)).slice(0, mostOnBoard)
  const onBoard = new Set(shown.map(({ id }) => id))
  const links = known.facts.links.filter(({ requirement }) => onBoard.has(requirement))
  const suspect = suspectEnds(known, links)
  const { byId } = known.result()
  const all = defectFacts(db, projectId)
  const defects = all.filter(({ state }) => isOpen(defectState.parse(state)))
  const cases = casesOnBoard(known, links)
  const pairs = (of: (defect: (typeof defects)[number]) => string | null) =>
    defects.flatMap((defect) => numbers(of(defect)).map((each): [number, number] => [defect.id, each]))
  return {
    requirements: shown.map(({ id, number, title }) => ({
      id,
      key: keyOf('requirement', number),
      title,
      gap: missing(byId.get(id)?.state === 'uncovered' && 'no case', suspect.requirements.has(id) && 'suspect'),
    })),
    cases: cases.map(({ id, number, title }) => ({
      id,
      key: keyOf('case', number),
      title,
      gap: missing(!hasResult(known, id) && 'no result', suspect.cases.has(id) && 'suspect'),
    })),
    results: resultsOnBoard(known, cases, new Set(all.flatMap(({ attempts }) => numbers(attempts)))),
    defects: defects.slice(0, mostOnBoard).map(({ id, number, title, state, cases: own }) => ({
      id,
      key: keyOf('defect', number),
      title,
      state,
      gap: missing(own === null && 'defect with no case'),
    })),
    links: links.map((link): [number, number] => [link.requirement, link.case]),
    defectCases: pairs((defect) => defect.cases),
    defectRequirements: pairs((defect) => defect.requirements),
    cut: order.length > mostOnBoard,
  }
}

const hasResult = (known: Knowledge, id: number): boolean =>
  (known.slots.get(id) ?? []).some(({ verdict }) => verdict !== 'Not run')

/** Requirements and cases at the ends of links that were confirmed against an older revision. */
function suspectEnds(known: Knowledge, links: Knowledge['facts']['links']) {
  const revisions = new Map(known.facts.requirements.map(({ id, revision }) => [id, revision]))
  const suspect = links.filter((link) => (revisions.get(link.requirement) ?? 0) > link.confirmedRevision)
  return {
    requirements: new Set(suspect.map(({ requirement }) => requirement)),
    cases: new Set(suspect.map((link) => link.case)),
  }
}

/** Cases of the requirements that are shown, and those that prove none. */
function casesOnBoard(known: Knowledge, links: Knowledge['facts']['links']) {
  const shown = new Set([...links.map((link) => link.case), ...casesAlone(known).map(({ id }) => id)])
  return known.facts.cases
    .filter(({ id }) => shown.has(id))
    .sort(byNumber)
    .slice(0, mostOnBoard * 3)
}

const resultsOnBoard = (
  known: Knowledge,
  cases: readonly { readonly id: number }[],
  told: ReadonlySet<number>,
): BoardAnswer['results'] =>
  cases.flatMap(({ id }) =>
    (known.slots.get(id) ?? []).flatMap(({ environment, verdict, word, reasons, standing }) =>
      standing === null
        ? []
        : [
            {
              id: `${id}:${environment}`,
              case: id,
              environment: known.facts.environmentNames.get(environment) ?? '',
              verdict,
              word: word ?? null,
              stale: reasons.length > 0,
              gap: missing(verdict === 'Failed' && !told.has(standing.attemptId) && 'failing with no defect'),
            },
          ],
    ),
  )
