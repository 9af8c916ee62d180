import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import { type FieldDefinition, parseFilter } from '#core/lib/filter.ts'
import type { SourceSaid } from '#core/plans/source.ts'
import { createSuite, deleteSuites } from '#core/plans/suite-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { useKept } from '#ui/kit/kept.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { go } from '#ui/shell/address.ts'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { ruleWords } from '#core/plans/source-words.ts'

/** What a new suite begins with. */
export interface SuiteSeed {
  readonly title: string
  readonly cases?: readonly number[]
  readonly sources?: readonly SourceSaid[]
  /** What it will hold, in a sentence. */
  readonly told?: string
  /** The list one is in stays in sight. */
  readonly stay?: boolean
}

/** Asks for the title of a new suite; a good one stands there already, so that Enter is all it takes. */
export function NewSuite({ seed, onClose }: { seed: SuiteSeed; onClose: () => void }) {
  const { key } = useHere()
  const making = useWrite(createSuite)
  const removing = useWrite(deleteSuites)
  const [title, setTitle, keeping] = useKept('suite.new', seed.title)
  const store = async () => {
    const { cases = [], sources = [] } = seed
    const made = await making.attempt({ params: { key }, body: { title, cases: [...cases], sources: [...sources] } })
    if (!made) return
    keeping.done()
    onClose()
    notify(`${made.key} ${title.trim()} is made.`, {
      undo: () => void removing.attempt({ params: { key }, body: { ids: [made.id] } }),
    })
    if (!seed.stay) go({ path: `/p/${key}/${made.key}` })
  }
  return (
    <Dialog title="New suite" onClose={onClose} kept={keeping}>
      {seed.told && <p className="quiet">{seed.told}</p>}
      <Form onSend={() => (title.trim() === '' ? undefined : void store())}>
        <Field label="Title">
          {(id) => (
            <TextInput
              id={id}
              value={title}
              maxLength={200}
              onFocus={({ target }) => target.select()}
              onChange={(event) => setTitle(event.target.value)}
            />
          )}
        </Field>
        <Button look="main" type="submit" disabled={making.busy || title.trim() === ''}>
          Make the suite
        </Button>
      </Form>
    </Dialog>
  )
}

/** The word and the key that make a suite of what is ticked, shown or open. */
export function SuiteOf({ seed, word = 'make a suite' }: { seed: SuiteSeed; word?: string | null }) {
  const { project } = useHere()
  const [open, setOpen] = useState(false)
  const may = project.role !== 'viewer'
  useKeys(may ? [{ id: 'suite-of', keys: 's', label: 'make a suite', run: () => setOpen(true) }] : [])
  if (!may) return null
  return (
    <>
      {word !== null && (
        <Button look="word" onClick={() => setOpen(true)}>
          {word}
        </Button>
      )}
      {open && <NewSuite seed={seed} onClose={() => setOpen(false)} />}
    </>
  )
}

export const ofTicked = (cases: readonly number[]): SuiteSeed => ({
  title: `${counted(cases.length, 'chosen case')}`,
  cases,
  told: `It begins with the ${counted(cases.length, 'case')} ticked, pinned in this order.`,
  stay: true,
})
/** What the list shows as a rule: what fits it later is in as well. */
export function ofList(params: URLSearchParams, fields: readonly FieldDefinition[]): SuiteSeed {
  const parsed = parseFilter(params.get('filter') ?? undefined, fields)
  const rule = { words: params.get('text') ?? '', filter: 'filter' in parsed ? parsed.filter : null }
  const words = ruleWords(rule, fields)
  return {
    title: `Cases: ${words}`.slice(0, 200),
    sources: [{ kind: 'rule', ...rule }],
    told: `Every case for which ${words} is in, now and later.`,
  }
}
export const ofBranches = (
  requirements: readonly { readonly id: number; readonly key: string; readonly title: string }[],
): SuiteSeed => {
  const [first] = requirements
  const rest = requirements.length - 1
  return {
    title: first ? `${first.title}${rest > 0 ? ` and ${rest} more` : ''}`.slice(0, 200) : '',
    sources: requirements.map(({ id }) => ({ kind: 'branch', requirement: id })),
    told: `Whatever covers ${requirements.map(({ key }) => key).join(', ')} is in, now and later.`,
  }
}
