import { typedKey } from '#core/lib/key.ts'
import { useState } from 'react'
import { plainText } from '#core/lib/plain-text.ts'
import { mergeRequirements, type RequirementSheet, splitRequirement } from '#core/requirements/contract.ts'
import { sentencesOf } from '#core/requirements/requirement.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { useKept } from '#ui/kit/kept.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { PickFoot, PickForm } from '#ui/kit/Pick.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { go } from '#ui/shell/address.ts'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import sheet from '#ui/shell/sheet.module.css'

/** Making two of one, and one of several. */
export function SplitMerge({ of }: { of: RequirementSheet }) {
  const { project } = useHere()
  const [dialog, setDialog] = useState<'split' | 'merge' | null>(null)
  if (project.role === 'viewer') return null
  return (
    <div className={sheet['acts']} data-print="no">
      <Button look="word" onClick={() => setDialog('split')}>
        split
      </Button>
      <Button look="word" onClick={() => setDialog('merge')}>
        merge others into it
      </Button>
      {dialog === 'split' && <SplitDialog of={of} onClose={() => setDialog(null)} />}
      {dialog === 'merge' && <MergeDialog of={of} onClose={() => setDialog(null)} />}
    </div>
  )
}

function SplitDialog({ of, onClose }: { of: RequirementSheet; onClose: () => void }) {
  const { key } = useHere()
  const { attempt, busy } = useWrite(splitRequirement)
  const [title, setTitle, keeping] = useKept(`split.${of.key}`, '')
  const [chosen, setChosen] = useState<readonly number[]>([])
  const [links, setLinks] = useState(true)
  const split = async () => {
    if (title.trim() === '') return
    const done = await attempt({ params: { key, ref: of.key }, body: { title, sentences: [...chosen], links } })
    if (!done) return
    keeping.done()
    notify(`${done.key} stands beside ${of.key} now.`)
    onClose()
    go({ path: `/p/${key}/${done.key}` })
  }
  return (
    <Dialog title={`Split ${of.key}`} onClose={onClose} kept={keeping}>
      <PickForm onDo={() => void split()}>
        <Field label="Title of the new requirement">
          {(id) => <TextInput id={id} data-first value={title} onChange={(event) => setTitle(event.target.value)} />}
        </Field>
        <Sentences of={sentencesOf(of.text)} chosen={chosen} onChoose={setChosen} />
        <label>
          <input type="checkbox" checked={links} onChange={(event) => setLinks(event.target.checked)} /> link the{' '}
          {of.linked.length} cases to both
        </label>
        {chosen.length > 0 && <p className="quiet">{of.key} gets a new revision, so its links become suspect.</p>}
        <PickFoot>
          <Button look="main" type="submit" disabled={title.trim() === '' || busy}>
            Split
          </Button>
        </PickFoot>
      </PickForm>
    </Dialog>
  )
}

/** Which sentences go to the new one, in their order. */
function Sentences({
  of,
  chosen,
  onChoose,
}: {
  of: readonly string[]
  chosen: readonly number[]
  onChoose: (chosen: readonly number[]) => void
}) {
  if (of.length === 0) return null
  const tick = (at: number, on: boolean) =>
    onChoose(on ? [...chosen, at].sort((a, b) => a - b) : chosen.filter((each) => each !== at))
  return (
    <>
      <p>What goes there:</p>
      <ul>
        {of.map((sentence, at) => (
          <li key={at}>
            <label style={{ gridTemplateColumns: '18px minmax(0, 1fr)' }}>
              <input
                type="checkbox"
                checked={chosen.includes(at)}
                onChange={(event) => tick(at, event.target.checked)}
              />
              <span>{sentence}</span>
            </label>
          </li>
        ))}
      </ul>
    </>
  )
}

function MergeDialog({ of, onClose }: { of: RequirementSheet; onClose: () => void }) {
  const { key } = useHere()
  const { attempt, busy } = useWrite(mergeRequirements)
  const [text, setText, keeping] = useKept(`merge.${of.key}`, '')
  const refs = text
    .split(/[\s,;]+/)
    .filter((part) => part !== '')
    .map((part) => typedKey('requirement', part) ?? part)
  const merge = async () => {
    if (refs.length === 0) return
    const done = await attempt({ params: { key, ref: of.key }, body: { take: refs } })
    if (!done) return
    keeping.done()
    notify(
      `${done.taken.join(', ')} ${done.taken.length === 1 ? 'is' : 'are'} part of ${of.key} now, with ${done.links} ${done.links === 1 ? 'case' : 'cases'}; the old keys lead here.`,
    )
    onClose()
  }
  return (
    <Dialog title={`Merge others into ${of.key}`} onClose={onClose} kept={keeping}>
      <PickForm onDo={() => void merge()}>
        <p className="quiet">
          Their text is put below that of {of.key} ({plainText(of.text).slice(0, 60)}
          {of.text.length > 60 && '…'}); their cases are linked here, what is below them comes along.
        </p>
        <Field label="Keys of the requirements to take in">
          {(id) => (
            <TextInput
              id={id}
              data-first
              value={text}
              placeholder="RQ-12, RQ-13"
              onChange={(event) => setText(event.target.value)}
            />
          )}
        </Field>
        <PickFoot>
          <Button look="main" type="submit" disabled={refs.length === 0 || busy}>
            Merge
          </Button>
        </PickFoot>
      </PickForm>
    </Dialog>
  )
}
