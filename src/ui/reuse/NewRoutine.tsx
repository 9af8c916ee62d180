import { createRoutine } from '#core/reuse/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { useKept } from '#ui/kit/kept.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { PickFoot, PickForm } from '#ui/kit/Pick.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'

export function NewRoutine({ onMade, onClose }: { onMade: (key: string) => void; onClose: () => void }) {
  const { key } = useHere()
  const { attempt, busy } = useWrite(createRoutine)
  const [typed, set, keeping] = useKept('routine.new', { title: '', lines: '' })
  const { title, lines } = typed
  const make = async () => {
    const done = await attempt({ params: { key }, body: { title, lines } })
    if (!done) return
    keeping.done()
    onMade(done.key)
  }
  return (
    <Dialog title="New routine" onClose={onClose} kept={keeping}>
      <PickForm
        onDo={() => {
          if (title.trim() !== '') void make()
        }}
      >
        <Field label="What it does, as one would say it">
          {(id) => (
            <TextInput
              id={id}
              data-first
              value={title}
              placeholder="Sign in as a clerk"
              onChange={(event) => set({ ...typed, title: event.target.value })}
            />
          )}
        </Field>
        <Field label="Its steps, a line each" hint="action => expected; {name} is asked of whoever inserts it">
          {(id) => (
            <textarea
              id={id}
              rows={6}
              value={lines}
              spellCheck
              placeholder={'Open the desk => It asks who you are\nSign in as {who} => Your name is shown'}
              onChange={(event) => set({ ...typed, lines: event.target.value })}
              style={{
                inlineSize: '100%',
                border: '1px solid var(--line-strong)',
                borderRadius: 4,
                padding: '6px 8px',
                background: 'var(--surface)',
              }}
            />
          )}
        </Field>
        <PickFoot>
          <Button look="main" type="submit" disabled={title.trim() === '' || busy}>
            Make it
          </Button>
        </PickFoot>
      </PickForm>
    </Dialog>
  )
}
