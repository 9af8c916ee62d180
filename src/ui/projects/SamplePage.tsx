import { readSample, type Sample } from '#core/projects/contract.ts'
import { readKey } from '#core/lib/key.ts'
import { momentText } from '#ui/kit/moment.ts'
import { PartHead } from '#ui/kit/Settings.tsx'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import css from './Sample.module.css'

export const SamplePage = (shell: ShellProps) => (
  <Shell {...shell}>
    <Sights />
  </Shell>
)

/** What somebody who looks around in the sample project finds where, each a way there. */
function Sights() {
  const { key } = useHere()
  const { data, error } = useAnswer(readSample, { params: { key } })
  return (
    <div className={css['sample']}>
      <PartHead
        title="What is in this sample project"
        explains="Two months of a team that tests a booking system. Everything is invented, and all of it can be changed: nothing you do here reaches anybody."
      />
      {error && <p>{error.message}</p>}
      {data && <Found of={data} />}
    </div>
  )
}

function Found({ of: { sights, desk, filledAt } }: { of: Sample }) {
  const { key } = useHere()
  return (
    <>
      {desk && (
        <p>
          The booking system itself runs at{' '}
          <a href={desk} target="_blank" rel="noreferrer">
            {desk}
          </a>
          , in nine builds: every case here can be executed on it, and what its defects tell of can be seen there.
        </p>
      )}
      <ul className={css['sights']}>
        {sights.map(({ place, title, told }) => (
          <li key={`${place} ${title}`}>
            <a href={`/p/${key}/${place}`}>{title}</a>
            <span className="key quiet">{readKey(place)?.kind ? place : ''}</span>
            <p className="quiet">{told}</p>
          </li>
        ))}
      </ul>
      <p className="quiet">As it was filled, {momentText(filledAt)}; what was changed since may be otherwise.</p>
    </>
  )
}
