import { type ReactNode, useState } from 'react'
import { linkDefect } from '#core/defects/contract.ts'
import type { Desk, Evidence } from '#core/runs/desk-contract.ts'
import { removeEvidence } from '#core/runs/note-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Mark } from '#ui/kit/Mark.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { ago } from '#ui/shell/people.ts'
import { useHere } from '#ui/shell/here.ts'
import css from './Desk.module.css'
import type { DeskActs } from './useDeskActs.ts'

interface Props {
  readonly desk: Desk
  readonly acts: DeskActs
  /** The step that is open. */
  readonly stepId: number | null
}

/** Beside the ladder: evidence, defects met here, what this case did before, what it proves. */
export const DeskSide = ({ desk, acts, stepId }: Props) => (
  <aside className={css['side']} aria-label="Beside the case">
    <Kept acts={acts} />
    <Met desk={desk} acts={acts} stepId={stepId} />
    <Before of={desk.before} onAgain={acts.own.attempt?.final ? acts.again : null} />
    <Proves of={desk.requirements} />
  </aside>
)

const SidePart = ({ title, act, children }: { title: string; act?: ReactNode; children: ReactNode }) => (
  <section>
    <header>
      <h2>{title}</h2>
      {act}
    </header>
    {children}
  </section>
)

function Kept({ acts }: Pick<Props, 'acts'>) {
  const { key } = useHere()
  const [viewing, setViewing] = useState<Evidence | null>(null)
  const removing = useWrite(removeEvidence)
  const evidence = acts.own.attempt?.evidence ?? []
  const remove = async (of: Evidence) => {
    if (!(await removing.attempt({ params: { key, id: of.id } }))) return
    setViewing(null)
    acts.own.patch((before) => ({ ...before, evidence: before.evidence.filter(({ id }) => id !== of.id) }))
    notify(`${of.name} is removed.`, {
      undo: () => void removing.attempt({ params: { key, id: of.id }, query: { undo: 'yes' } }).then(acts.refresh),
    })
  }
  const add = (
    <Button look="word" onClick={acts.chooseFile}>
      add a file
    </Button>
  )
  return (
    <SidePart title="Evidence" act={add}>
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
      {viewing && (
        <EvidenceView
          of={viewing}
          all={evidence}
          onShow={setViewing}
          onClose={() => setViewing(null)}
          onRemove={() => void remove(viewing)}
        />
      )}
    </SidePart>
  )
}

function Met({ desk, acts, stepId }: Props) {
  const { key } = useHere()
  const linking = useWrite(linkDefect)
  const { attempt, at } = acts.own
  const link = async (ref: string, to: number) => {
    const body = { attempt: to, row: at.row, step: stepId }
    if (!(await linking.attempt({ params: { key, ref }, body }))) return
    notify(`${ref} is linked to this step.`)
    acts.refresh()
  }
  const log = (
    <Button look="word" onClick={() => acts.ask('defect')}>
      new defect
    </Button>
  )
  return (
    <SidePart title="Defects of this case" act={log}>
      {desk.defects.length === 0 && <p className="quiet">None so far.</p>}
      <ul>
        {desk.defects.map((defect) => (
          <li key={defect.key} className={css['defect']}>
            <a href={`/p/${key}/${defect.key}`}>
              <b>{defect.key}</b> {defect.title}
            </a>
            <span className="quiet">{defect.state}</span>
            {!defect.here && attempt && (
              <Button look="word" onClick={() => void link(defect.key, attempt.id)}>
                link it here
              </Button>
            )}
          </li>
        ))}
      </ul>
    </SidePart>
  )
}

/** What this case did before; with an act that runs it again when it is done here. */
function Before({ of, onAgain }: { of: Desk['before']; onAgain: (() => void) | null }) {
  const again = onAgain && (
    <Button look="word" onClick={onAgain}>
      run it again
    </Button>
  )
  return (
    <SidePart title="Before" act={again}>
      {of.length === 0 && <p className="quiet">This case was not run before.</p>}
      <ul>
        {of.map((each) => (
          <li key={each.id} className={css['past']}>
            <Mark verdict={each.verdict} /> <span className="key">{each.build}</span> {each.environment}{' '}
            <span className="quiet">{each.at === null ? '' : ago(each.at)}</span>
          </li>
        ))}
      </ul>
    </SidePart>
  )
}

function Proves({ of }: { of: Desk['requirements'] }) {
  const { key } = useHere()
  return (
    <SidePart title="Proves">
      <ul>
        {of.map(({ key: ref, title }) => (
          <li key={ref}>
            <a href={`/p/${key}/${ref}`}>
              <span className="key">{ref}</span> {title}
            </a>
          </li>
        ))}
        {of.length === 0 && <li className="quiet">No requirement.</li>}
      </ul>
    </SidePart>
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
