import { confirmLink, endLink } from '#core/cases/link-contract.ts'
import type { LinkedCase, RequirementSheet } from '#core/requirements/contract.ts'
import { Mark } from '#ui/kit/Mark.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { scopeSearch, useAddress } from '#ui/shell/address.ts'
import { useWrite } from '#ui/shell/answers.tsx'
import { ago } from '#ui/shell/people.ts'
import { useHere } from '#ui/shell/here.ts'
import { useLinking } from '#ui/shell/links.ts'
import css from '#ui/shell/sheet.module.css'

export function useLinks(of: RequirementSheet) {
  const { key } = useHere()
  const link = useLinking()
  const ending = useWrite(endLink)
  const confirming = useWrite(confirmLink)
  return {
    link: (refs: readonly string[]) => link({ requirements: [of.key], cases: [...refs] }),
    end: async (linked: LinkedCase) => {
      if (await ending.attempt({ params: { key, id: linked.link } }))
        notify(`${linked.key} unlinked.`, {
          undo: () => void link({ requirements: [of.key], cases: [linked.key] }),
        })
    },
    confirm: async (linked: LinkedCase) => {
      if (await confirming.attempt({ params: { key, id: linked.link } }))
        notify(`The link to ${linked.key} is confirmed against revision ${of.revision}.`)
    },
  }
}

export function CaseLine({ of, onConfirm, onEnd }: { of: LinkedCase; onConfirm: () => void; onEnd: () => void }) {
  const { key } = useHere()
  const { params } = useAddress()
  const worst =
    (['Failed', 'Blocked', 'Inconclusive', 'Passed'] as const).find((verdict) =>
      of.slots.some((slot) => slot.verdict === verdict),
    ) ?? 'Not run'
  const slot = of.slots.find(({ verdict }) => verdict === worst)
  const newest = of.slots.find(({ build }) => build !== null)
  const defects = [...new Set(of.slots.flatMap((each) => each.defects))]
  const note =
    of.steps === 0
      ? 'no step yet'
      : defects.length > 0
        ? defects.join(', ')
        : (slot?.reasons[0] ?? (worst === 'Not run' ? 'not run' : ''))
  return (
    <li>
      <span className={css['marks']}>
        <Mark verdict={worst} stale={(slot?.reasons.length ?? 0) > 0} />
      </span>
      <span className="key">{of.key}</span>
      <a href={`/p/${key}/${of.key}${scopeSearch(params)}`} title={of.title}>
        {of.title}
      </a>
      <span className={css['note']} title={newest?.at ? ago(newest.at) : undefined}>
        {of.suspect ? (
          <button
            type="button"
            className={css['suspect']}
            onClick={onConfirm}
            title="The requirement changed since this link was confirmed"
          >
            suspect · confirm
          </button>
        ) : (
          <>
            {note}
            {newest?.build && (
              <>
                {' '}
                <span className="key">{newest.build.replace(/^.*-/, '')}</span>
              </>
            )}
          </>
        )}
      </span>
      <button type="button" className={css['act']} aria-label={`Unlink ${of.key}`} onClick={onEnd}>
        ×
      </button>
    </li>
  )
}
