import { useState } from 'react'
import type { CoverageAnswer } from '#core/reports/contract.ts'
import { shareText } from '#core/lib/figures.ts'
import { Mark } from '#ui/kit/Mark.tsx'
import { ResultBar } from '#ui/kit/ResultBar.tsx'
import { freshnessWords } from '#ui/requirements/freshness-words.ts'
import { useTo } from '#ui/shell/here.ts'
import css from './Reports.module.css'

type Node = CoverageAnswer['nodes'][number]

/** Which branches are folded, and what that hides. */
function useFolding(nodes: readonly Node[]) {
  const [folded, setFolded] = useState<ReadonlySet<number>>(new Set())
  const parents = new Map(nodes.map(({ id, parent }) => [id, parent]))
  const isHidden = (id: number): boolean => {
    const parent = parents.get(id) ?? null
    return parent !== null && (folded.has(parent) || isHidden(parent))
  }
  const fold = (id: number) => {
    const next = new Set(folded)
    if (!next.delete(id)) next.add(id)
    setFolded(next)
  }
  return { isFolded: (id: number) => folded.has(id), isHidden, fold }
}

/** Coverage per requirement, rolled up; a branch folds. Of the risky ones only those that nothing stands below. */
export function CoverageTable({ of, risky = false }: { of: CoverageAnswer; risky?: boolean }) {
  const { isFolded, isHidden, fold } = useFolding(of.nodes)
  const branches = new Set(of.nodes.map(({ parent }) => parent))
  const shown = of.nodes.filter(({ id }) => !isHidden(id) && !(risky && branches.has(id)))
  return (
    <div className={css['scroll']} tabIndex={0} role="region" aria-label="Coverage per requirement">
      <table className={css['table']}>
        <thead>
          <tr>
            {columns.map(([name, end]) => (
              <th key={name} scope="col" className={end ? css['n'] : undefined}>
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {shown.map((node) => (
            <Row
              key={node.id}
              of={node}
              depth={risky ? 0 : node.depth}
              folded={branches.has(node.id) ? isFolded(node.id) : null}
              onFold={() => fold(node.id)}
            />
          ))}
        </tbody>
      </table>
    </div>
  )
}

/** Figures stand at the end of their columns. */
const columns: readonly (readonly [name: string, end: boolean])[] = [
  ['Requirement', false],
  ['State', false],
  ['Risk', true],
  ['Cases', true],
  ['Results', false],
  ['Recorded', true],
  ['Current', true],
  ['Confident', true],
  ['Freshness', false],
]

interface RowProps {
  readonly of: Node
  readonly depth: number
  /** `null` when it is no branch. */
  readonly folded: boolean | null
  readonly onFold: () => void
}

function Row({ of, depth, folded, onFold }: RowProps) {
  const { figures, risk, riskGiven } = of
  const { recorded, current, confident } = figures.passing.plain
  const branch = folded !== null
  return (
    <tr data-branch={branch || undefined}>
      <th scope="row" style={{ paddingInlineStart: depth * 20 }}>
        <Name of={of} folded={folded} onFold={onFold} />
      </th>
      <td>
        <State of={of} />
      </td>
      <td className={css['n']}>{!branch && `${risk}${riskGiven ? '' : '?'}`}</td>
      <td className={css['n']}>
        {figures.cases}
        {figures.drafted > 0 && <span className="quiet">+{figures.drafted}</span>}
      </td>
      <td>
        <ResultBar {...figures} width={110} />
      </td>
      {[recorded, current, confident].map((share, index) => (
        <td key={index} className={css['n']}>
          {shareText(share)}
        </td>
      ))}
      <td className="quiet">{freshnessWords(of)}</td>
    </tr>
  )
}

function Name({ of: { key, title }, folded, onFold }: Omit<RowProps, 'depth'>) {
  const to = useTo()
  return (
    <>
      {folded === null ? (
        <span className={css['leaf']} />
      ) : (
        <button type="button" aria-expanded={!folded} aria-label={`${title}, fold`} onClick={onFold}>
          {folded ? '▸' : '▾'}
        </button>
      )}
      <a href={to(key)}>
        <span className="key quiet">{key}</span> {title}
      </a>
    </>
  )
}

const State = ({ of: { state } }: { of: Node }) =>
  state === 'uncovered' ? (
    <b className={css['gap']}>uncovered</b>
  ) : (
    <>
      <Mark verdict={state} size={12} label={false} /> {state}
    </>
  )
