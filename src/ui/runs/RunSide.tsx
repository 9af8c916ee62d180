import type { BodyOf } from '#core/lib/contract.ts'
import { counted, minutesText, percent, percentText } from '#core/lib/figures.ts'
import type { RunSheet, updateRun } from '#core/runs/contract.ts'
import { Choice } from '#ui/kit/Choice.tsx'
import { Mark } from '#ui/kit/Mark.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { ResultBar } from '#ui/kit/ResultBar.tsx'
import { momentText } from '#ui/kit/moment.ts'
import { AskWords, showOnly } from '#ui/list/Sentence.tsx'
import { History } from '#ui/shell/History.tsx'
import { attemptsAddress } from '#ui/shell/attempts.ts'
import { useHere } from '#ui/shell/here.ts'
import { SharedFailures } from '#ui/shell/SharedFailures.tsx'
import { shortName } from '#ui/shell/people.ts'
import { HandOver } from './HandOver.tsx'
import type { Items } from './items.tsx'
import { RunFacts } from './RunFacts.tsx'
import { RunFiles } from './RunFile.tsx'
import { RunTags } from './RunTags.tsx'
import { RunPolicy } from './RunPolicy.tsx'
import { RunScope } from './RunScope.tsx'
import { RunShape } from './RunShape.tsx'
import { RunWatch } from './RunWatch.tsx'
import css from './RunSheet.module.css'
import { TeamPick } from './TeamPick.tsx'
import { Unapproved } from './Unapproved.tsx'

interface Props {
  readonly of: RunSheet
  readonly onEdit: (body: BodyOf<typeof updateRun>) => Promise<unknown>
}
interface SideProps extends Props {
  readonly onClose: () => void
  readonly items: Items
}
const tallied = ['Passed', 'Failed', 'Blocked', 'Inconclusive', 'Skipped', 'Not run'] as const

/** What has come of the run so far, its team, and where it stands. */
export function RunSide({ of, onEdit, onClose, items }: SideProps) {
  const { key, project } = useHere()
  const builds = project.builds.filter(({ release }) => release === of.releaseId)
  return (
    <aside className={css['side']} aria-label="The run">
      <RunFacts of={of} onEdit={onEdit} />
      <h2>So far</h2>
      <SoFar of={of} />
      <Tally of={of} />
      <RunWatch of={of} />
      <RunScope of={of} />
      <StillToDo of={of} />
      <Unapproved of={of.unapproved} />
      <AfterClose of={of} />
      <div className={css['teamHead']}>
        <h2>Team</h2>
        <Pop title="Testers" label="choose testers">
          <TeamPick team={of.team.map(({ id }) => id)} onChoose={(people) => void onEdit({ people })} />
        </Pop>
      </div>
      <Team of={of} items={items} />
      {of.plan && (
        <p>
          From plan <a href={`/p/${key}/${of.plan}`}>{of.planTitle}</a>
        </p>
      )}
      <Composed of={of} />
      <p>
        <a href={attemptsAddress(key, 'run', of.number)}>All its attempts</a>
      </p>
      {of.endedReason !== '' && (
        <p>
          {of.state === 'Aborted' ? 'Ended early' : 'Closed'}: {of.endedReason}
        </p>
      )}
      <p>
        New attempts start on{' '}
        <Choice
          label="Build of the run"
          value={String(of.buildId)}
          options={builds.map(({ id, name }) => ({ value: String(id), label: name }))}
          onChoose={(build) => void onEdit({ build: Number(build) })}
        />
      </p>
      <RunTags of={of} />
      <RunFiles of={of} />
      <SharedFailures of={of.key} />
      <RunPolicy of={of} onEdit={onEdit} />
      <RunShape of={of} onClose={onClose} />
      <History about={of.key} />
    </aside>
  )
}

/** What has come of it as one bar, and as a whole. */
const SoFar = ({ of }: { of: RunSheet }) => (
  <>
    <ResultBar
      verdicts={of.verdicts}
      stale={{}}
      slots={of.items}
      width="100%"
      onPart={(verdict) => showOnly({ field: 'verdict', op: 'is', values: [verdict] })}
    />
    <p>
      {percentText(percent(of.done, of.items))} done, {of.done} of {of.items}
      {of.outcome && of.done > 0 && (
        <>
          ; as a whole{' '}
          <span className={css['whole']}>
            <Mark verdict={of.outcome} /> {of.outcome}
          </span>
        </>
      )}
    </p>
  </>
)

const Tally = ({ of }: { of: RunSheet }) => (
  <ul className={css['tally']}>
    {tallied.map((verdict) => (
      <li key={verdict}>
        <Mark verdict={verdict} label={false} />{' '}
        <AskWords words={verdict} filter={{ field: 'verdict', op: 'is', values: [verdict] }} />{' '}
        <b>{of.verdicts[verdict] ?? 0}</b>
      </li>
    ))}
    {Object.entries(of.words).map(([word, n]) => (
      <li key={word} className={css['word']}>
        of them <AskWords words={word} filter={{ field: 'word', op: 'is', values: [word] }} /> <b>{n}</b>
      </li>
    ))}
  </ul>
)

/** What counts otherwise than its verdict says, by the policy of the run, and what verdicts still ask for. */
function StillToDo({ of: { spoiled, quarantined, owing, owingCount } }: { of: RunSheet }) {
  const { key } = useHere()
  const more = owingCount - owing.length
  return (
    <>
      {spoiled > 0 && <p>{counted(spoiled, 'result')} spoiled since: to be executed again.</p>}
      {quarantined.length > 0 && <p>Left out of the outcome, in quarantine: {quarantined.join(', ')}.</p>}
      {owingCount > 0 && (
        <section aria-label="Asked for">
          <h2>Asked for</h2>
          <ul className={css['after']}>
            {owing.map((each) => (
              <li key={each.item}>
                <a href={`/p/${key}/desk/${each.item}?mine=no`}>{each.case}</a> {each.owed.join(', ')}
              </li>
            ))}
            {more > 0 && <li className="quiet">and {more} more</li>}
          </ul>
        </section>
      )}
    </>
  )
}

/** Out of what it was made, and for which reasons. */
function Composed({ of }: { of: RunSheet }) {
  const { key } = useHere()
  if (!of.composed) return null
  const { runs, plan, reasons, words, filter } = of.composed
  const address = new URLSearchParams({
    reasons: reasons.join(','),
    ...(runs.length > 0 && { runs: runs.join(',') }),
    ...(plan !== null && { plan }),
    ...(words !== '' && { words }),
    ...(filter !== '' && { only: filter }),
  })
  const named = [...runs, ...(plan === null ? [] : [plan])]
  return (
    <p>
      Composed for <a href={`/p/${key}/runs/again?${address}`}>{reasons.join(', ') || 'no reason'}</a>
      {named.length > 0 && ` out of ${named.join(', ')}`}
    </p>
  )
}

/** What came after the close: it is kept, counts only where it amends, and whoever closed the run should know. */
function AfterClose({ of }: { of: RunSheet }) {
  const { key } = useHere()
  if (of.closedAt === null || of.afterCloseCount === 0) return null
  const more = of.afterCloseCount - of.afterClose.length
  return (
    <section aria-label="After the close">
      <h2>After the close</h2>
      <p>
        {counted(of.afterCloseCount, 'verdict')} given after {momentText(of.closedAt)}:{' '}
        {of.amendedCount === 0
          ? 'kept, not counted. Open the run again to go on.'
          : of.amendedCount === of.afterCloseCount
            ? `${of.amendedCount === 1 ? 'it amends its result, and counts' : 'they amend its results, and count'}.`
            : `${of.amendedCount} amend its results and count, the others are kept and do not.`}
      </p>
      <ul className={css['after']}>
        {of.afterClose.map((each, index) => (
          <li key={index}>
            <a href={`/p/${key}/desk/${each.item}`}>{each.case}</a> {each.verdict}
            {each.counts ? ' (amends)' : ''}, {shortName(each.person)}{' '}
            <span className="quiet">{momentText(each.at)}</span>
          </li>
        ))}
        {more > 0 && <li className="quiet">and {more} more</li>}
      </ul>
    </section>
  )
}

const Team = ({ of, items }: { of: RunSheet; items: Items }) => (
  <table className={css['team']}>
    <thead>
      <tr>
        <th>Tester</th>
        <th>Items</th>
        <th>Left</th>
        <th>
          <span className="hidden">Hand over</span>
        </th>
      </tr>
    </thead>
    <tbody>
      {of.team.map((person) => (
        <tr key={person.id}>
          <td>{person.name}</td>
          <td>{person.items}</td>
          <td>{minutesText(person.left)}</td>
          <td>{person.left > 0 && <HandOver of={of} from={person} items={items} />}</td>
        </tr>
      ))}
      {of.unassigned > 0 && (
        <tr>
          <td className="quiet">nobody</td>
          <td>{of.unassigned}</td>
          <td colSpan={2} />
        </tr>
      )}
    </tbody>
  </table>
)
