import { chooseLetters, readLetters } from '#core/talk/contract.ts'
import { noticeKinds, noticeNames, type NoticeKind } from '#core/talk/notice.ts'
import { Setting } from '#ui/kit/Settings.tsx'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useUndoable } from '#ui/shell/undoable.ts'
import css from './People.module.css'

/** Which of what waits in the inbox comes as a letter too. */
export function Letters() {
  const { data } = useAnswer(readLetters, {})
  const store = useUndoable(chooseLetters)
  if (!data) return null
  const { kinds, mail } = data
  const choose = (kind: NoticeKind, wanted: boolean) => {
    const now = noticeKinds.filter((each) => (each === kind ? wanted : kinds.includes(each)))
    void store({ kinds: now }, wanted ? 'It comes as a letter too.' : 'It waits in the inbox alone.', { kinds })
  }
  return (
    <section aria-label="Notices">
      <h2>Notices</h2>
      <Setting
        name="As a letter too"
        explains={
          mail
            ? 'All of these wait in your inbox. One that you have not seen after two minutes comes as a letter as well, if you want that.'
            : 'All of these wait in your inbox. No mail server is set up here, so that no letter leaves yet.'
        }
      >
        <ul className={css['choices']}>
          {noticeKinds.map((kind) => (
            <li key={kind}>
              <label>
                <input
                  type="checkbox"
                  checked={kinds.includes(kind)}
                  onChange={({ target }) => choose(kind, target.checked)}
                />{' '}
                {noticeNames[kind]}
              </label>
            </li>
          ))}
        </ul>
      </Setting>
    </section>
  )
}
