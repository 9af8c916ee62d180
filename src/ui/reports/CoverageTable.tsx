import { useState } from 'react'
import type { CoverageAnswer } from '#core/reports/contract.ts'
import { shareText } from '#core/lib/figures.ts'
import { Mark } from '#ui/kit/Mark.tsx'
import { ResultBar } from '#ui/kit/ResultBar.tsx'
import { freshnessWords } from '#ui/requirements/freshness-words.ts'
import { scopeSearch, useAddress } from '#ui/shell/address.ts'
import { useHere } from '#ui/shell/here.ts'
import css from './Reports.module.css'

/** Coverage per requirement, rolled up; a branch folds. */
export function CoverageTable({ of, risky = false }: { of: CoverageAnswer; risky?: boolean }) {
  const { key } = useHere()
  const { params } = useAddress()
  const [folded, setFolded] = useState<ReadonlySet<number>>(new Set())
  const parents = new Map(of.nodes.map(({ id, parent }) => [id, parent]))
  const hidden = (id: number): boolean => {
    const parent = parents.get(id) ?? null
    return parent !== null && (folded.has(parent) || hidden(parent))
  }
  const branches = new Set(of.nodes.map(({ parent }) => parent))
  const fold = (id: number) =>
    setFolded((before) =>
      before.has(id) ? new Set([...before].filter((each) => each !== id)) : new Set([...before, id]),
    )
  return (
    <div className={css['scroll']} tabIndex={0} role="region" aria-label="Coverage per requirement">
      <table className={css['table']}>
        <thead>
          <tr>
            <th scope="col">Requirement</th>
            <th scope="col">State</th>
            <th scope="col" className={css['n']}>
              Risk
            </th>
            <th scope="col" className={css['n']}>
              Cases
            </th>
            <th scope="col">Results</th>
            <th scope="col" className={css['n']}>
              Recorded
            </th>
            <th scope="col" className={css['n']}>
              Current
            </th>
            <th scope="col" className={css['n']}>
              Confident
            </th>
            <th scope="col">Freshness</th>
          </tr>
        </thead>
        <tbody>
          {of.nodes
            .filter(({ id }) => !hidden(id))
            .filter((node) => !risky || !branches.has(node.id))
            .map((node) => {
              const branch = branches.has(node.id)
              const { passing } = node.figures
              return (
                <tr key={node.id} data-branch={branch || undefined}>
                  <th scope="row" style={{ paddingInlineStart: risky ? 0 : node.depth * 20 }}>
                    {branch ? (
                      <button
                        type="button"
                        aria-expanded={!folded.has(node.id)}
                        aria-label={`${node.title}, fold`}
                        onClick={() => fold(node.id)}
                      >
                        {folded.has(node.id) ? '▸' : '▾'}
                      </button>
                    ) : (
                      <span className={css['leaf']} />
                    )}
                    <a href={`/p/${key}/${node.key}${scopeSearch(params)}`}>
                      <span className="key quiet">{node.key}</span> {node.title}
                    </a>
                  </th>
                  <td>
                    {node.state === 'uncovered' ? (
                      <b className={css['gap']}>uncovered</b>
                    ) : (
                      <>
                        <Mark verdict={node.state} size={12} label={false} /> {node.state}
                      </>
                    )}
                  </td>
                  <td className={css['n']}>{branch ? '' : node.riskGiven ? node.risk : `${node.risk}?`}</td>
                  <td className={css['n']}>
                    {node.figures.cases}
                    {node.figures.drafted > 0 && <span className="quiet">+{node.figures.drafted}</span>}
                  </td>
                  <td>
                    <ResultBar {...node.figures} width={110} />
                  </td>
                  <td className={css['n']}>{shareText(passing.plain.recorded)}</td>
                  <td className={css['n']}>{shareText(passing.plain.current)}</td>
                  <td className={css['n']}>{shareText(passing.plain.confident)}</td>
                  <td className="quiet">{freshnessWords(node)}</td>
                </tr>
              )
            })}
        </tbody>
      </table>
    </div>
  )
}
