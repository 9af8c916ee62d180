import { type KeyboardEvent, useState } from 'react'
import type { Used } from '#core/cases/contract.ts'
import { counted } from '#core/lib/figures.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Shown } from '#ui/kit/RichText.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from '#ui/cases/Steps.module.css'
import type { DraftStep } from '#ui/cases/draft.ts'

interface Props {
  readonly step: DraftStep
  readonly at: number
  readonly used: Used | undefined
  readonly onChange: (step: DraftStep) => void
  readonly onWriteOut: () => void
  readonly onMove: (by: -1 | 1) => void
  readonly onGo: (by: -1 | 1) => void
  readonly onRemove: () => void
}

/** A step that stands for a routine or another case: which version, what it is given, and, opened, what it says. */
export function UseRow({ step, at, used, onChange, onWriteOut, ...moves }: Props) {
  const { key } = useHere()
  const [open, setOpen] = useState(false)
  const { use } = step
  if (!use) return null
  const change = (to: Partial<typeof use>) => onChange({ ...step, use: { ...use, ...to } })
  return (
    <div className={css['use']} role="group" aria-label={`Step ${at + 1} inserts ${use.ref} ${step.action}`}>
      <p>
        <button
          type="button"
          className={css['opener']}
          data-step-cell={`${at}:action`}
          aria-expanded={open}
          onClick={() => setOpen(!open)}
          onKeyDown={(event) => hear(event, moves)}
        >
          <span aria-hidden="true">{open ? '▾' : '▸'}</span> <b>{step.action || use.ref}</b>{' '}
          <span className="quiet">{used ? counted(used.steps.length, 'step') : 'is being fetched…'}</span>
        </button>
        <span className={css['useActs']}>
          <a href={`/p/${key}/${use.ref}`} className="key">
            {use.ref} {use.name}
          </a>
          {used && used.newest !== null && (
            <Button look="word" onClick={() => change({ version: 0, name: '' })}>
              take {used.newest}
            </Button>
          )}
          {used && (
            <Button look="word" onClick={onWriteOut}>
              write out
            </Button>
          )}
        </span>
      </p>
      {used && <Given use={use} names={used.parameters} onGive={(values) => change({ values })} />}
      {open && used && <Inside steps={used.steps} />}
    </div>
  )
}

function hear(event: KeyboardEvent, { onMove, onGo, onRemove }: Pick<Props, 'onMove' | 'onGo' | 'onRemove'>): void {
  event.stopPropagation()
  const by = event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' ? 1 : 0
  if (by === 0 && event.key !== 'Delete') return
  event.preventDefault()
  if (by === 0) onRemove()
  else if (event.altKey) onMove(by)
  else onGo(by)
}

type Use = NonNullable<DraftStep['use']>

/** What the parameters of what is inserted stand for here. */
const Given = ({
  use,
  names,
  onGive,
}: {
  use: Use
  names: readonly string[]
  onGive: (values: Record<string, string>) => void
}) =>
  names.length === 0 ? null : (
    <p className={css['given']}>
      {names.map((name) => (
        <label key={name}>
          <span className="key">{`{${name}}`}</span>{' '}
          <input
            value={use.values[name] ?? ''}
            placeholder="from the data row"
            aria-label={`Value of ${name} for ${use.ref}`}
            onChange={(event) => onGive({ ...use.values, [name]: event.target.value })}
            onKeyDown={(event) => event.stopPropagation()}
          />
        </label>
      ))}
    </p>
  )

const Inside = ({ steps }: { steps: Used['steps'] }) => (
  <ol className={css['inside']}>
    {steps.map(({ action, expected, data, from }, index) => (
      <li key={index}>
        <Shown html={action} inline />
        <Said sign="⇒" html={expected} />
        <Said sign="with" html={data} />
        {from.includes('›') && <span className="quiet"> ({from.split(' › ').at(-1)})</span>}
      </li>
    ))}
  </ol>
)

const Said = ({ sign, html }: { sign: string; html: string }) =>
  html === '' ? null : (
    <>
      {' '}
      <span className="quiet">{sign}</span> <Shown html={html} inline />
    </>
  )
