import { Command } from 'cmdk'
import { useDeferredValue, useState } from 'react'
import { findAnything } from '#core/finding/contract.ts'
import { useActiveKeys } from '#ui/kit/keys.ts'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { scopeSearch, useAddress } from './address.ts'
import { useAnswer } from './answers.tsx'
import { stations } from './RouteBar.tsx'
import { useHere } from './here.ts'
import { keyCaps } from './HintLine.tsx'
import css from './FindOrDo.module.css'

/** Finds an object by key or words, goes to a place, or does what a key does here. */
export function FindOrDo({ onClose, onKeys }: { onClose: () => void; onKeys: () => void }) {
  const { key } = useHere()
  const { params } = useAddress()
  const [text, setText] = useState('')
  const asked = useDeferredValue(text.trim())
  const keys = useActiveKeys()
  const { data } = useAnswer(
    findAnything,
    { params: { key }, query: { q: asked } },
    { enabled: asked !== '', keep: true },
  )
  const to = (path: string) => () => location.assign(`/p/${key}${path}${scopeSearch(params)}`)
  const acts = [
    ...new Map(
      keys
        .filter(({ id }) => !id.startsWith('station-') && !['find', 'today', 'keys'].includes(id))
        .map((binding) => [binding.id, binding]),
    ).values(),
  ]
  const fits = (label: string) => text === '' || label.toLowerCase().includes(text.toLowerCase())
  return (
    <Dialog title="Find or do" onClose={onClose}>
      <Command shouldFilter={false} label="Find or do" className={css['find']}>
        <Command.Input
          value={text}
          onValueChange={setText}
          placeholder="A key, some words, or something to do"
          autoFocus
          className={css['input']}
        />
        <Command.List className={css['list']}>
          <Command.Empty className="quiet">
            {asked === '' ? '' : 'Nothing has these words in its title or key.'}
          </Command.Empty>
          {asked !== '' && (data?.rows.length ?? 0) > 0 && (
            <Command.Group heading="Find">
              {data?.rows.map(({ ref, title }) => (
                <Command.Item key={ref} value={ref} onSelect={to(`/${ref}`)}>
                  <span className="key">{ref}</span> {title}
                </Command.Item>
              ))}
            </Command.Group>
          )}
          <Command.Group heading="Go">
            {[
              { name: 'Today', path: '' },
              ...stations,
              { name: 'Risk field', path: 'reports/risk' },
              { name: 'Thread board', path: 'reports/board' },
              { name: 'Gaps', path: 'reports/gaps' },
              { name: 'Set-up', path: 'set-up' },
            ]
              .filter(({ name }) => fits(name))
              .map(({ name, path }) => (
                <Command.Item key={name} value={`go ${name}`} onSelect={to(path === '' ? '' : `/${path}`)}>
                  {name}
                </Command.Item>
              ))}
          </Command.Group>
          <Command.Group heading="Do here">
            {acts
              .filter(({ label }) => fits(label))
              .map((binding) => (
                <Command.Item
                  key={binding.id}
                  value={`do ${binding.id}`}
                  onSelect={() => {
                    onClose()
                    binding.run()
                  }}
                >
                  {binding.label}{' '}
                  <span className={css['caps']}>
                    {keyCaps(binding.keys).map((cap) => (
                      <kbd key={cap}>{cap}</kbd>
                    ))}
                  </span>
                </Command.Item>
              ))}
            {fits('all keys') && (
              <Command.Item value="do keys" onSelect={onKeys}>
                all keys{' '}
                <span className={css['caps']}>
                  <kbd>F1</kbd>
                </span>
              </Command.Item>
            )}
          </Command.Group>
        </Command.List>
      </Command>
    </Dialog>
  )
}
