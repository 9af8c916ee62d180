import { useState } from 'react'
import { linkDefect } from '#core/defects/contract.ts'
import { type Desk, type DeskAttempt, type Evidence, removeEvidence } from '#core/runs/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Mark } from '#ui/kit/Mark.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { ago } from '#ui/shell/people.ts'
import { useHere } from '#ui/shell/here.ts'
import css from './Desk.module.css'

interface Props {
  readonly desk: Desk
  readonly attempt: DeskAttempt | null
  readonly stepId: number | null
  readonly row: number
  readonly onEvidence: () => void
  readonly onDefect: () => void
  readonly onRemoved: (id: number) => void
  readonly onLinked: () => void
  readonly onAgain: () => void
}

/** Beside the ladder: evidence, defects met here, what this case did before, what it proves. */
export function DeskSide({ desk, attempt, stepId, row, onEvidence, onDefect, onRemoved, onLinked, onAgain }: Props) {
  const { key } = useHere()
  const [viewing, setViewing] = useState<Evidence | null>(null)
  const removing = useWrite(removeEvidence)
  const linking = useWrite(linkDefect)
  const evidence = attempt?.evidence ?? []
  const remove = async (of: Evidence) => {
    if (!(await removing.attempt({ params: { key, id: of.id } }))) return
    setViewing(null)
    onRemoved(of.id)
    notify(`${of.name} is removed.`, {
      undo: () => void removing.attempt({ params: { key, id: of.id }, query: { undo: 'yes' } }).then(onLinked),
    })
  }
  const link = async (ref: string) => {
    if (
      attempt &&
      (await linking.attempt({ params: { key, ref }, body: { attempt: attempt.id, row, step: stepId } }))
    ) {
      notify(`${ref} is linked to this step.`)
      onLinked()
    }
  }
  return (
    <aside className={css['side']} aria-label="Beside the case">
      <section>
        <header>
          <h2>Evidence</h2>
          <Button look="word" onClick={onEvidence}>
            add a file
          </Button>
        </header>
        {evidence.length === 0 && (
          <p className={css['drop']}>Paste a picture anywhere, or drop a file: it is kept with the open step.</p>
        )}
        <ul className={css['strip']}>
          {evidence.map((each) => (
            <li key={each.id}>
              <button type="button" aria-label={`Show ${each.name}`} onClick={() => setViewing(each)}>
                {each.mime.startsWith('image/') ? (
                  <img src={each.url} alt={each.name} loading="lazy" />
                ) : (
                  <span className="key">{each.name}</span>
                )}
              </button>
            </li>
          ))}
        </ul>
      </section>
      <section>
        <header>
          <h2>Defects of this case</h2>
          <Button look="word" onClick={onDefect}>
            new defect
          </Button>
        </header>
        {desk.defects.length === 0 && <p className="quiet">None so far.</p>}
        <ul>
          {desk.defects.map((defect) => (
            <li key={defect.key} className={css['defect']}>
              <a href={`/p/${key}/${defect.key}`}>
                <b>{defect.key}</b> {defect.title}
              </a>
              <span className="quiet">{defect.state}</span>
              {!defect.here && attempt && (
                <Button look="word" onClick={() => void link(defect.key)}>
                  link it here
                </Button>
              )}
            </li>
          ))}
        </ul>
      </section>
      <section>
        <header>
          <h2>Before</h2>
          {attempt?.final && (
            <Button look="word" onClick={onAgain}>
              run it again
            </Button>
          )}
        </header>
        {desk.before.length === 0 && <p className="quiet">This case was not run before.</p>}
        <ul>
          {desk.before.map((each) => (
            <li key={each.id} className={css['past']}>
              <Mark verdict={each.verdict} /> <span className="key">{each.build}</span> {each.environment}{' '}
              <span className="quiet">{each.at === null ? '' : ago(each.at)}</span>
            </li>
          ))}
        </ul>
      </section>
      <section>
        <header>
          <h2>Proves</h2>
        </header>
        <ul>
          {desk.requirements.map(({ key: ref, title }) => (
            <li key={ref}>
              <a href={`/p/${key}/${ref}`}>
                <span className="key">{ref}</span> {title}
              </a>
            </li>
          ))}
          {desk.requirements.length === 0 && <li className="quiet">No requirement.</li>}
        </ul>
      </section>
      {viewing && (
        <EvidenceView
          of={viewing}
          all={evidence}
          onShow={setViewing}
          onClose={() => setViewing(null)}
          onRemove={() => void remove(viewing)}
        />
      )}
    </aside>
  )
}

function EvidenceView({
  of,
  all,
  onShow,
  onClose,
  onRemove,
}: {
  of: Evidence
  all: readonly Evidence[]
  onShow: (of: Evidence) => void
  onClose: () => void
  onRemove: () => void
}) {
  const at = all.findIndex(({ id }) => id === of.id)
  const step = (by: number) => {
    const next = all[at + by]
    if (next) onShow(next)
  }
  return (
    <Dialog title={of.name} onClose={onClose} wide>
      <div
        onKeyDown={(event) => {
          if (event.key === 'ArrowRight') step(1)
          if (event.key === 'ArrowLeft') step(-1)
        }}
      >
        {of.mime.startsWith('image/') ? (
          <img className={css['picture']} src={of.url} alt={of.name} />
        ) : (
          <p>
            {of.mime}, {Math.ceil(of.size / 1024)} kB
          </p>
        )}
        <p className={css['viewFoot']}>
          <span className="quiet">
            {at + 1} of {all.length}, {ago(of.at)}
          </span>
          <span>
            <Button disabled={at <= 0} onClick={() => step(-1)}>
              ←
            </Button>{' '}
            <Button disabled={at >= all.length - 1} onClick={() => step(1)}>
              →
            </Button>{' '}
            <a href={of.url} download={of.name}>
              Download
            </a>{' '}
            <Button look="danger" onClick={onRemove}>
              Remove
            </Button>
          </span>
        </p>
      </div>
    </Dialog>
  )
}
