import { Command } from 'cmdk'
import { useDeferredValue, useRef, useState } from 'react'
import { findAnything } from '#core/finding/contract.ts'
import { type Binding, useActiveKeys } from '#ui/kit/keys.ts'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { scopeSearch, useAddress } from './address.ts'
import { useAnswer } from './answers.tsx'
import { stations } from './RouteBar.tsx'
import { useHere } from './here.ts'
import { keyCaps } from './HintLine.tsx'
import { useOnceSettled } from './once-settled.ts'
import css from './FindOrDo.module.css'

const frameKeys = ['find', 'today', 'keys']

/** What the keys do here, each once, without those of the frame. */
function useActs(): readonly Binding[] {
  const own = useActiveKeys().filter(({ id }) => !id.startsWith('station-') && !frameKeys.includes(id))
  return [...new Map(own.map((binding) => [binding.id, binding])).values()]
}

const places = [
  { name: 'Today', path: '' },
  ...stations,
  { name: 'My day', path: 'runs/line?mine' },
  { name: 'Calendar', path: 'runs/calendar' },
  { name: 'Risk field', path: 'reports/risk' },
  { name: 'Thread board', path: 'reports/board' },
  { name: 'Gaps', path: 'reports/gaps' },
  { name: 'History', path: 'history' },
  { name: 'People', path: 'set-up/people' },
  { name: 'Set-up', path: 'set-up' },
]

/** Finds an object by key or words, goes to a place, or does what a key does here. */
export function FindOrDo({ onClose, onKeys }: { onClose: () => void; onKeys: () => void }) {
  const { key } = useHere()
  const { params } = useAddress()
  const [text, setText] = useState('')
  const { rows, settled } = useFound(text.trim())
  const input = useRef<HTMLInputElement>(null)
  const takeChosen = useOnceSettled(settled, () =>
    input.current?.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true })),
  )
  const fits = (label: string) => label.toLowerCase().includes(text.toLowerCase())
  const goTo = (path: string) =>
    location.assign(`/p/${key}${path === '' ? '' : `/${path}`}${path.includes('?') ? '' : scopeSearch(params)}`)
  return (
    <Dialog title="Find or do" onClose={onClose}>
      <Command
        shouldFilter={false}
        label="Find or do"
        className={css['find']}
        onKeyDown={(event) => {
          if (event.key !== 'Enter' || settled) return
          event.preventDefault()
          takeChosen()
        }}
      >
        <Command.Input
          ref={input}
          value={text}
          onValueChange={setText}
          placeholder="A key, some words, or something to do"
          autoFocus
          className={css['input']}
        />
        <Command.List className={css['list']}>
          <Command.Empty className="quiet">
            {text.trim() === '' ? '' : 'Nothing has these words in its title or key.'}
          </Command.Empty>
          <Found rows={rows} onGo={goTo} />
          <Command.Group heading="Go">
            {places
              .filter(({ name }) => fits(name))
              .map(({ name, path }) => (
                <Command.Item key={name} value={`go ${name}`} onSelect={() => goTo(path)}>
                  {name}
                </Command.Item>
              ))}
          </Command.Group>
          <Command.Group heading="Do here">
            <Acts fits={fits} onClose={onClose} />
            {fits('all keys') && (
              <Command.Item value="do keys" onSelect={onKeys}>
                all keys <Caps keys="F1" />
              </Command.Item>
            )}
          </Command.Group>
        </Command.List>
      </Command>
    </Dialog>
  )
}

/** What has these words in its key or title, and whether what is shown answers them. */
function useFound(words: string) {
  const { key } = useHere()
  const asked = useDeferredValue(words)
  const { data, settled } = useAnswer(
    findAnything,
    { params: { key }, query: { q: asked } },
    { enabled: asked !== '', keep: true },
  )
  return { rows: asked === '' ? [] : (data?.rows ?? []), settled: words === '' || (asked === words && settled) }
}

function Found({ rows, onGo }: { rows: ReturnType<typeof useFound>['rows']; onGo: (path: string) => void }) {
  if (rows.length === 0) return null
  return (
    <Command.Group heading="Find">
      {rows.map(({ ref, title }) => (
        <Command.Item key={ref} value={ref} onSelect={() => onGo(ref)}>
          <span className="key">{ref}</span> {title}
        </Command.Item>
      ))}
    </Command.Group>
  )
}

const Caps = ({ keys }: { keys: string }) => (
  <span className={css['caps']}>
    {keyCaps(keys).map((cap) => (
      <kbd key={cap}>{cap}</kbd>
    ))}
  </span>
)

function Acts({ fits, onClose }: { fits: (label: string) => boolean; onClose: () => void }) {
  return useActs()
    .filter(({ label }) => fits(label))
    .map(({ id, label, keys, run }) => (
      <Command.Item
        key={id}
        value={`do ${id}`}
        onSelect={() => {
          onClose()
          run()
        }}
      >
        {label} <Caps keys={keys} />
      </Command.Item>
    ))
}
