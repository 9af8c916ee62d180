import { useState } from 'react'
import { Button } from '#ui/kit/Button.tsx'
import css from './DropTray.module.css'

interface Place {
  readonly id: number
  readonly key: string
  readonly title: string
  readonly note: string
}

/** Places beside a list on which its rows are dropped; what can be done with ticked rows does the same by key. */
export function DropTray({
  title,
  told,
  places,
  type,
  onDrop,
  onClose,
}: {
  title: string
  told: string
  places: readonly Place[]
  /** What the rows carry. */
  type: string
  onDrop: (place: Place, carried: string) => void
  onClose: () => void
}) {
  const [over, setOver] = useState<number | null>(null)
  return (
    <nav className={css['tray']} aria-label={title}>
      <div>
        <h2>{title}</h2>
        <Button look="word" onClick={onClose}>
          hide
        </Button>
      </div>
      <p className="quiet">{told}</p>
      <ul>
        {places.map((place) => (
          <li
            key={place.id}
            data-over={over === place.id || undefined}
            onDragOver={(event) => {
              if (!event.dataTransfer.types.includes(type)) return
              event.preventDefault()
              setOver(place.id)
            }}
            onDragLeave={() => setOver(null)}
            onDrop={(event) => {
              event.preventDefault()
              setOver(null)
              onDrop(place, event.dataTransfer.getData(type))
            }}
          >
            <span className="key quiet">{place.key}</span> <span>{place.title}</span>{' '}
            <span className="quiet">{place.note}</span>
          </li>
        ))}
      </ul>
    </nav>
  )
}
