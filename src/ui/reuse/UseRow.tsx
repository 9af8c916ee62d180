import { type KeyboardEvent, useState } from 'react'
import type { Used } from '#core/cases/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Shown } from '#ui/kit/RichText.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from '#ui/cases/Steps.module.css'
import type { DraftStep } from '#ui/cases/useWorkingCopy.ts'

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
export function UseRow({ step, at, used, onChange, onWriteOut, onMove, onGo, onRemove }: Props) {
  const { key } = useHere()
  const [open, setOpen] = useState(false)
  const { use } = step
  if (!use) return null
  const hear = (event: KeyboardEvent) => {
    event.stopPropagation()
    if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
      event.preventDefault()
      onMove(event.key === 'ArrowUp' ? -1 : 1)
    } else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      event.preventDefault()
      onGo(event.key === 'ArrowUp' ? -1 : 1)
    } else if (event.key === 'Delete') {
      event.preventDefault()
      onRemove()
    }
  }
  const give = (name: string, value: string) =>
    onChange({ ...step, use: { ...use, values: { ...use.values, [name]: value } } })
  return (
    <div className={css['use']} role="group" aria-label={`Step ${at + 1} inserts ${use.ref} ${step.action}`}>
      <p>
        <button
          type="button"
          className={css['opener']}
          data-step-cell={`${at}:action`}
          aria-expanded={open}
          onClick={() => setOpen(!open)}
          onKeyDown={hear}
        >
          <span aria-hidden="true">{open ? '▾' : '▸'}</span> <b>{step.action || use.ref}</b>{' '}
          <span className="quiet">
            {used ? `${used.steps.length} ${used.steps.length === 1 ? 'step' : 'steps'}` : 'is being fetched…'}
          </span>
        </button>
        <span className={css['useActs']}>
          <a href={`/p/${key}/${use.ref}`} className="key">
            {use.ref} {use.name}
          </a>
          {used && used.newest !== null && (
            <Button look="word" onClick={() => onChange({ ...step, use: { ...use, version: 0, name: '' } })}>
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
      {used && used.parameters.length > 0 && (
        <p className={css['given']}>
          {used.parameters.map((name) => (
            <label key={name}>
              <span className="key">{`{${name}}`}</span>{' '}
              <input
                value={use.values[name] ?? ''}
                placeholder="from the data row"
                aria-label={`Value of ${name} for ${use.ref}`}
                onChange={(event) => give(name, event.target.value)}
                onKeyDown={(event) => event.stopPropagation()}
              />
            </label>
          ))}
        </p>
      )}
      {open && used && (
        <ol className={css['inside']}>
          {used.steps.map((inner, index) => (
            <li key={index}>
              <Shown html={inner.action} inline />
              {inner.expected !== '' && (
                <>
                  {' '}
                  <span className="quiet">⇒</span> <Shown html={inner.expected} inline />
                </>
              )}
              {inner.data !== '' && (
                <>
                  {' '}
                  <span className="quiet">with</span> <Shown html={inner.data} inline />
                </>
              )}
              {inner.from.includes('›') && <span className="quiet"> ({inner.from.split(' › ').at(-1)})</span>}
            </li>
          ))}
        </ol>
      )}
    </div>
  )
}
