import { useEffect, useState } from 'react'
import { Button } from './Button.tsx'
import { Choice } from './Choice.tsx'
import { Dialog } from './Dialog.tsx'
import { EditText } from './EditText.tsx'
import { Field, TextInput } from './Field.tsx'
import { Lines } from './Lines.tsx'
import { Mark, markNames } from './Mark.tsx'
import { Notices, notify } from './notices.tsx'
import { Pop } from './Pop.tsx'
import { ResultBar } from './ResultBar.tsx'
import { RichText } from './RichText.tsx'
import { Thread } from './Thread.tsx'
import { tokenPairs, tokens } from './tokens.ts'
import css from './Styleguide.module.css'

/** All of the design system on one page, in both themes. */
export function Styleguide() {
  const [dialog, setDialog] = useState(false)
  const [choice, setChoice] = useState('High')
  const [title, setTitle] = useState('Text that is edited where it stands')
  const [text, setText] = useState(
    '<p>Rich text with <strong>emphasis</strong>, <code>code</code> and</p><ul><li>lists</li></ul>',
  )
  const [dark, setDark] = useState(false)
  useEffect(() => {
    document.documentElement.dataset['theme'] = dark ? 'dark' : 'light'
  }, [dark])
  return (
    <main className={css['page']}>
      <header>
        <h1>Styleguide</h1>
        <Button onClick={() => setDark(!dark)}>{dark ? 'Light theme' : 'Dark theme'}</Button>
      </header>
      <section>
        <h2>Verdict marks</h2>
        <table>
          <thead>
            <tr>
              <td />
              {markNames.map((name) => (
                <th key={name} scope="col">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {[12, 16, 24].map((size) => (
              <tr key={size}>
                <th scope="row">{size} px</th>
                {markNames.map((name) => (
                  <td key={name}>
                    <Mark verdict={name} size={size} /> <Mark verdict={name} stale size={size} />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <section>
        <h2>Results</h2>
        <ResultBar
          verdicts={{ Passed: 12, Failed: 3, Blocked: 1 }}
          stale={{ Passed: 5, Failed: 1 }}
          slots={20}
          width={280}
        />
      </section>
      <section>
        <h2>Words to click</h2>
        <p>
          Importance{' '}
          <Choice
            label="Importance"
            value={choice}
            options={['Critical', 'High', 'Medium', 'Low']}
            onChoose={setChoice}
          />
          , or{' '}
          <Pop label="a panel" title="A panel">
            What a panel holds.
          </Pop>
          , or <Button look="word">a word</Button>.
        </p>
      </section>
      <section>
        <h2>Buttons</h2>
        <p className={css['row']}>
          <Button look="main">Main act</Button>
          <Button>Beside it</Button>
          <Button look="danger">What goes</Button>
          <Button disabled>Not now</Button>
        </p>
      </section>
      <section>
        <h2>Fields</h2>
        <Field label="A field" hint="What belongs in it">
          {(id) => <TextInput id={id} defaultValue="Ovemouth" />}
        </Field>
        <Field label="With a problem" problem="has fewer than ten characters">
          {(id) => <TextInput id={id} defaultValue="short" />}
        </Field>
        <p>
          <EditText label="Title" value={title} onStore={setTitle} />
        </p>
        <Lines label="Lines" placeholder="A line each" action="Store" onStore={async () => true} />
        <RichText label="text" html={text} onStore={setText} />
      </section>
      <section>
        <h2>Thread</h2>
        <Thread
          knots={[
            {
              name: 'requirement',
              own: true,
              text: (
                <>
                  <b className="key">RQ-4</b> revision 3
                </>
              ),
              rows: [],
            },
            {
              name: 'cases',
              own: false,
              text: (
                <>
                  <b>11</b> cases
                </>
              ),
              rows: [],
            },
            {
              name: 'results',
              own: false,
              text: (
                <>
                  <Mark verdict="Failed" size={12} /> 2
                </>
              ),
              rows: [],
            },
            { name: 'defects', own: false, text: '2 open defects', rows: [] },
          ]}
        />
      </section>
      <section>
        <h2>Notices and dialogs</h2>
        <p className={css['row']}>
          <Button onClick={() => notify('Three cases deleted.', { undo: () => notify('They are back.') })}>
            A notice with undo
          </Button>
          <Button onClick={() => notify('The server cannot be reached.', { tone: 'problem' })}>A problem</Button>
          <Button onClick={() => setDialog(true)}>A dialog</Button>
        </p>
      </section>
      <section>
        <h2>Colours</h2>
        <ul className={css['tokens']}>
          {tokens.map((name) => (
            <li key={name}>
              <span style={{ background: `var(--${name})` }} />
              {name}
            </li>
          ))}
        </ul>
        <p className="quiet">{tokenPairs.length} pairs in use are checked for contrast by a test.</p>
      </section>
      <section>
        <h2>Empty and refused</h2>
        <p className={css['empty']}>
          Nothing here yet. An empty place says what belongs there and offers the first act.
          <br />
          <br />
          <Button look="main">Write lines</Button>
        </p>
      </section>
      {dialog && (
        <Dialog title="A dialog" onClose={() => setDialog(false)}>
          <p>It holds the focus and gives it back.</p>
        </Dialog>
      )}
      <Notices />
    </main>
  )
}
