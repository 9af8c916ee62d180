import { numberIn } from '#core/lib/key.ts'
import { type CaseSheet } from '#core/cases/contract.ts'
import { endLink, updateLink } from '#core/cases/link-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { LinkBox } from '#ui/shell/LinkBox.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere, useTo } from '#ui/shell/here.ts'
import { useLinking } from '#ui/shell/links.ts'
import css from '#ui/shell/sheet.module.css'

type Link = CaseSheet['links'][number]

const dragged = 'application/x-rovant-refs'

function useProving(of: CaseSheet, onLinked: () => void) {
  const { key } = useHere()
  const making = useLinking()
  const ending = useWrite(endLink)
  const changing = useWrite(updateLink)
  const link = async (requirements: string[]) => {
    if (await making({ requirements, cases: [of.key] })) onLinked()
  }
  const end = async (own: Link) => {
    if (await ending.attempt({ params: { key, id: own.link } }))
      notify(`${own.key} unlinked.`, { undo: () => void link([own.key]) })
  }
  const narrow = (own: Link, to: { step: number | null; quote: string }) =>
    changing.attempt({ params: { key, id: own.link }, body: to })
  return { link, end, narrow }
}
type Proving = ReturnType<typeof useProving>

/** What the case proves: requirements, and where somebody said so, which step proves which sentence. A requirement can be dropped here. */
export function Proves({
  of,
  linking,
  onLinking,
}: {
  of: CaseSheet
  linking: boolean
  onLinking: (on: boolean) => void
}) {
  const proving = useProving(of, () => onLinking(false))
  const dropped = (text: string) => {
    const refs = text.split(',').filter((ref) => numberIn('requirement', ref) > 0)
    if (refs.length > 0) void proving.link(refs)
  }
  return (
    <section
      className={css['part']}
      onDragOver={(event) => {
        if (event.dataTransfer.types.includes(dragged)) event.preventDefault()
      }}
      onDrop={(event) => dropped(event.dataTransfer.getData(dragged))}
    >
      <div className={css['partHead']}>
        <h3>Proves</h3>
        <Button look="word" onClick={() => onLinking(!linking)}>
          link a requirement
        </Button>
      </div>
      {linking && <LinkBox to="requirement" onLink={proving.link} />}
      <ul className={css['rows']}>
        {of.links.length === 0 && (
          <li className="quiet" style={{ display: 'block', paddingBlock: 5 }}>
            Nothing yet: this case proves no requirement.
          </li>
        )}
        {of.links.map((each) => (
          <LinkRow key={each.link} of={of} link={each} proving={proving} />
        ))}
      </ul>
    </section>
  )
}

function LinkRow({ of, link, proving }: { of: CaseSheet; link: Link; proving: Proving }) {
  const to = useTo()
  return (
    <li>
      <span />
      <span className="key">{link.key}</span>
      <a href={to(link.key)} title={link.title}>
        {link.title}
      </a>
      <span className={css['note']}>
        <Pop title={`What of ${link.key} is proved`} label={partText(of, link)}>
          <Part of={of} link={link} onSet={(part) => void proving.narrow(link, part)} />
        </Pop>{' '}
        · {link.suspect ? <span className={css['suspect']}>suspect</span> : riskText(link.risk)}
      </span>
      <button
        type="button"
        className={css['act']}
        aria-label={`Unlink ${link.key}`}
        onClick={() => void proving.end(link)}
      >
        ×
      </button>
    </li>
  )
}

const riskText = (risk: number | null): string => (risk === null ? 'no risk given' : `risk ${risk}`)

const placeOf = (of: CaseSheet, step: number | null): number => of.content.steps.findIndex(({ id }) => id === step)

function partText(of: CaseSheet, { step, quote }: Link): string {
  const at = step === null ? -1 : placeOf(of, step)
  const by = step === null ? '' : at < 0 ? 'a step that is gone: ' : `step ${at + 1}: `
  return quote === '' ? `${by}all of it` : `${by}“${quote.length > 34 ? `${quote.slice(0, 32)}…` : quote}”`
}

/** One step and one sentence, or the whole of either. */
function Part({
  of,
  link,
  onSet,
}: {
  of: CaseSheet
  link: Link
  onSet: (to: { step: number | null; quote: string }) => void
}) {
  const steps = of.content.steps.flatMap(({ id, action }, index) =>
    id === null
      ? []
      : [{ value: String(id), label: `step ${index + 1}, ${action.replace(/<[^>]*>/g, '').slice(0, 50)}` }],
  )
  return (
    <div style={{ display: 'grid', gap: 8, maxInlineSize: 460 }}>
      <p>
        Proved by{' '}
        <Choice
          label="Step"
          value={String(link.step ?? '')}
          options={[{ value: '', label: 'the whole case' }, ...steps]}
          onChoose={(value) => onSet({ step: value === '' ? null : Number(value), quote: link.quote })}
        />
        :
      </p>
      <label>
        <input
          type="radio"
          name={`part-${link.link}`}
          checked={link.quote === ''}
          onChange={() => onSet({ step: link.step, quote: '' })}
        />{' '}
        all of {link.key}
      </label>
      {link.sentences.map((sentence, index) => (
        <label key={index}>
          <input
            type="radio"
            name={`part-${link.link}`}
            checked={link.quote === sentence}
            onChange={() => onSet({ step: link.step, quote: sentence })}
          />{' '}
          {sentence}
        </label>
      ))}
      {link.quote !== '' && !link.sentences.includes(link.quote) && (
        <p className={css['suspect']}>It no longer says “{link.quote}”.</p>
      )}
    </div>
  )
}
