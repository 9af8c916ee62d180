import type { Project } from '#core/projects/contract.ts'
import { finalVerdicts } from '#core/lib/verdict.ts'
import { Mark } from '#ui/kit/Mark.tsx'
import { Table } from '#ui/kit/Settings.tsx'

const means: Readonly<Record<(typeof finalVerdicts)[number], string>> = {
  Passed: 'Everything was as expected; it counts for what is passing.',
  Failed: 'Something was not as expected; a defect can be reported from it.',
  Blocked: 'It could not be executed to its end; it counts as not passing, and waits.',
  Skipped: 'It was left out on purpose; it counts as not executed.',
  Inconclusive: 'It was executed, and nobody can say; it counts as not passing.',
}

/** The verdicts there are, and the project’s own with what each counts as. */
export const VerdictsPart = ({ of }: { of: Project }) => (
  <Table label="Verdicts" head={['Verdict', 'Counts as', 'What it says', 'Of']}>
    {finalVerdicts.map((verdict) => (
      <tr key={verdict}>
        <td>{verdict}</td>
        <td>
          <Mark verdict={verdict} label={false} /> <span className="hidden">itself</span>
        </td>
        <td className="quiet">{means[verdict]}</td>
        <td className="quiet">items and steps</td>
      </tr>
    ))}
    {of.verdictKinds.map(({ word, countsAs, forItems, forSteps }) => (
      <tr key={word}>
        <td>{word}</td>
        <td>
          <Mark verdict={countsAs} label={false} /> {countsAs}
        </td>
        <td className="quiet">A word of this project.</td>
        <td className="quiet">{[forItems && 'items', forSteps && 'steps'].filter(Boolean).join(' and ')}</td>
      </tr>
    ))}
  </Table>
)
