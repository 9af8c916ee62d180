import type { ImportAnswer, Preview as Row } from '#core/formats/contract.ts'
import css from './ImportDialog.module.css'

/** The first objects as they will be, what is to decide first. */
export function Preview({ of }: { of: ImportAnswer }) {
  if (of.preview.length === 0) return null
  const total = of.counts.new + of.counts.changed + of.counts.unchanged
  return (
    <section aria-label="As it will be">
      <h3 className={css['heading']}>
        {of.preview.length < total ? `The first ${of.preview.length} of ${total} as they will be` : 'As they will be'}
      </h3>
      <ol className={css['preview']}>
        {of.preview.map((row, index) => (
          <li key={index} data-status={row.status}>
            <One of={row} />
          </li>
        ))}
      </ol>
    </section>
  )
}

function One({ of }: { of: Row }) {
  const status =
    of.status === 'changed'
      ? `changes ${of.changes.map((field) => field.replace('custom:', '')).join(', ')}`
      : of.status === 'unchanged'
        ? 'stays as it is'
        : 'new'
  return (
    <>
      <p>
        <b>{of.title || '(no title)'}</b> <span className="key quiet">{of.key ?? of.id}</span>{' '}
        <span className={css['status']}>{status}</span>
      </p>
      <p className={css['about']}>
        {of.place}
        {of.about.length > 0 && ` · ${of.about.join(' · ')}`}
      </p>
      {of.steps.length > 0 && (
        <ol className={css['stepList']}>
          {of.steps.slice(0, 4).map((step, index) => (
            <li key={index}>
              <span>{step.action || '–'}</span>
              <span>{step.expected}</span>
              <span className="key">{step.data}</span>
            </li>
          ))}
          {of.steps.length > 4 && (
            <li>
              <span className="quiet">and {of.steps.length - 4} more</span>
            </li>
          )}
        </ol>
      )}
      {of.rows > 0 && <p className="quiet">{of.rows} data rows</p>}
    </>
  )
}
