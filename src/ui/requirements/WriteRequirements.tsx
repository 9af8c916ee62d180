import { useState } from 'react'
import { type RequirementRow, writeRequirementLines } from '#core/requirements/contract.ts'
import { counted } from '#core/lib/figures.ts'
import { outlineLines } from '#core/lib/outline-lines.ts'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Lines } from '#ui/kit/Lines.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { go, useParams } from '#ui/shell/address.ts'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { focusList } from '#ui/shell/useSheet.ts'

/** Requirements typed or pasted as lines, at the top or below the one that is open. */
export function WriteRequirements({ under, onClose }: { under: RequirementRow | undefined; onClose: () => void }) {
  const { key, project } = useHere()
  const params = useParams('release')
  const { attempt } = useWrite(writeRequirementLines)
  const usual =
    project.releases.find(({ name }) => name === params.get('release')) ??
    project.releases.find(({ state }) => state === 'In test')
  const [place, setPlace] = useState(under ? String(under.id) : '')
  const [release, setRelease] = useState(usual ? String(usual.id) : '')
  const store = async (lines: string): Promise<boolean> => {
    const [parent, from] = [place, release].map((text) => (text === '' ? null : Number(text)))
    const made = await attempt({ params: { key }, body: { lines, under: parent ?? null, release: from ?? null } })
    if (!made) return false
    const [first, last] = [made.keys[0] ?? '', made.keys.at(-1) ?? '']
    notify(`${made.keys.length === 1 ? first : `${made.keys.length} requirements, ${first} to ${last},`} stored.`)
    onClose()
    go({ path: `/p/${key}/${first}`, params: { full: null } })
    focusList()
    return true
  }
  const here = under ? [{ value: String(under.id), label: `under ${under.key} ${under.title}` }] : []
  const releases = project.releases.map(({ id, name }) => ({ value: String(id), label: `Release ${name}` }))
  return (
    <Dialog title="Write requirements as lines" onClose={onClose} wide>
      <p className="quiet" style={{ marginBlockEnd: 8 }}>
        A line a requirement; Tab indents it below the one above. They go{' '}
        <Choice
          label="Where"
          value={place}
          options={[{ value: '', label: 'at the top' }, ...here]}
          onChoose={setPlace}
        />{' '}
        and are testable from{' '}
        <Choice
          label="Release"
          value={release}
          options={[{ value: '', label: 'any release' }, ...releases]}
          onChoose={setRelease}
        />
        .
      </p>
      <Lines
        label="Requirements, a line each"
        place="requirements"
        says={(lines) => counted(outlineLines(lines).length, 'requirement')}
        placeholder={'Fares and concessions\n\tLargest reduction wins\n\tIslander concession'}
        action="Store"
        autoFocus
        rows={8}
        onStore={store}
      />
    </Dialog>
  )
}
