import type { LineAnswer } from '#core/schedule/contract.ts'
import { counted } from '#core/lib/figures.ts'
import { Dialog } from '#ui/kit/Dialog.tsx'
import css from './CutLine.module.css'

const terms = [
  'how often it failed lately',
  'changed since it passed',
  'an open defect on the same requirement',
  'a repair waits to be tried',
  'how little what stands is to be trusted',
] as const

/** The worth of one item, by what multiplies out to it. */
export function WhyDialog({ of, row, onClose }: { of: LineAnswer; row: number; onClose: () => void }) {
  const leaves = of.leaves[row] ?? []
  const targets = of.targets[row] ?? 0
  const chance = 1 - leaves.reduce((product, each) => product * each, 1)
  return (
    <Dialog title={`${of.keys[row] ?? ''}: worth ${(of.worth[row] ?? 0).toFixed(2)}`} onClose={onClose}>
      <p>
        {of.titles[row]}, {of.environments[row]}: {of.why[row]}.
      </p>
      <table className={css['terms']}>
        <thead>
          <tr>
            <th scope="col">What speaks for executing it</th>
            <th scope="col">Chance to learn something</th>
            <th scope="col">Leaves</th>
          </tr>
        </thead>
        <tbody>
          {terms.map((words, at) => (
            <tr key={words} data-nothing={leaves[at] === 1 || undefined}>
              <th scope="row">{words}</th>
              <td>{((1 - (leaves[at] ?? 1)) * 100).toFixed(1)} %</td>
              <td>× {(leaves[at] ?? 1).toFixed(4)}</td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr>
            <th scope="row">together: one less what is left</th>
            <td>{(chance * 100).toFixed(1)} %</td>
            <td>{(1 - chance).toFixed(4)}</td>
          </tr>
        </tfoot>
      </table>
      <p>
        Its share of the risk of its requirements{targets > 0 && `, by ${counted(targets, 'drafting target')}`} and its
        own importance come to {(of.shares[row] ?? 0).toFixed(2)}; times the chance that is{' '}
        <b>{(of.worth[row] ?? 0).toFixed(2)}</b>
        {Math.abs((of.adds[row] ?? 0) - (of.worth[row] ?? 0)) > 0.005 &&
          `, of which ${(of.adds[row] ?? 0).toFixed(2)} is not answered by an item before it`}
        . Of the project’s attempts {(of.rate * 100).toFixed(1)} % fail.
      </p>
    </Dialog>
  )
}
