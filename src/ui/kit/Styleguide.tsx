import { type ReactNode, useEffect, useState } from 'react'
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
import { Counted, ownKnot, Thread } from './Thread.tsx'
import { tokenPairs, tokens } from './tokens.ts'
import css from './Styleguide.module.css'

/** All of the design system on one page, in both themes. */
export function Styleguide() {
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
      <Marks />
      <Results />
      <Words />
      <Buttons />
      <Fields />
      <Knots />
      <Acts />
      <Colours />
      <Empty />
      <Notices />
    </main>
  )
}

const Specimen = ({ title, children }: { title: string; children: ReactNode }) => (
  <section>
    <h2>{title}</h2>
    {children}
  </section>
)

const Marks = () => (
  <Specimen title="Verdict marks">
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
  </Specimen>
)

const Results = () => (
  <Specimen title="Results">
    <ResultBar
      verdicts={{ Passed: 12, Failed: 3, Blocked: 1 }}
      stale={{ Passed: 5, Failed: 1 }}
      slots={20}
      width={280}
    />
  </Specimen>
)

function Words() {
  const [choice, setChoice] = useState('High')
  return (
    <Specimen title="Words to click">
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
    </Specimen>
  )
}

const Buttons = () => (
  <Specimen title="Buttons">
    <p className={css['row']}>
      <Button look="main">Main act</Button>
      <Button>Beside it</Button>
      <Button look="danger">What goes</Button>
      <Button disabled>Not now</Button>
    </p>
  </Specimen>
)

function Fields() {
  const [title, setTitle] = useState('Text that is edited where it stands')
  const [text, setText] = useState(
    '<p>Rich text with <strong>emphasis</strong>, <code>code</code> and</p><ul><li>lists</li></ul>',
  )
  return (
    <Specimen title="Fields">
      <Field label="A field" hint="What belongs in it">
        {(id) => <TextInput id={id} defaultValue="Ovemouth" />}
      </Field>
      <Field label="With a problem" problem="has fewer than ten characters">
        {(id) => <TextInput id={id} defaultValue="short" />}
      </Field>
      <p>
        <EditText label="Title" value={title} onStore={setTitle} />
      </p>
      <Lines label="Lines" place="styleguide" placeholder="A line each" action="Store" onStore={async () => true} />
      <RichText label="text" html={text} onStore={setText} />
    </Specimen>
  )
}

const Knots = () => (
  <Specimen title="Thread">
    <Thread
      knots={[
        ownKnot('requirement', 'RQ-4', 'revision 3'),
        { name: 'cases', text: <Counted n={11} one="case" />, rows: [] },
        {
          name: 'results',
          text: (
            <>
              <Mark verdict="Failed" size={12} /> 2
            </>
          ),
          rows: [],
        },
        { name: 'defects', text: <Counted n={2} one="open defect" />, rows: [] },
      ]}
    />
  </Specimen>
)

function Acts() {
  const [dialog, setDialog] = useState(false)
  return (
    <Specimen title="Notices and dialogs">
      <p className={css['row']}>
        <Button onClick={() => notify('Three cases deleted.', { undo: () => notify('They are back.') })}>
          A notice with undo
        </Button>
        <Button onClick={() => notify('The server cannot be reached.', { tone: 'problem' })}>A problem</Button>
        <Button onClick={() => setDialog(true)}>A dialog</Button>
      </p>
      {dialog && (
        <Dialog title="A dialog" onClose={() => setDialog(false)}>
          <p>It holds the focus and gives it back.</p>
        </Dialog>
      )}
    </Specimen>
  )
}

const Colours = () => (
  <Specimen title="Colours">
    <ul className={css['tokens']}>
      {tokens.map((name) => (
        <li key={name}>
          <span style={{ background: `var(--${name})` }} />
          {name}
        </li>
      ))}
    </ul>
    <p className="quiet">{tokenPairs.length} pairs in use are checked for contrast by a test.</p>
  </Specimen>
)

const Empty = () => (
  <Specimen title="Empty and refused">
    <p className={css['empty']}>
      Nothing here yet. An empty place says what belongs there and offers the first act.
      <br />
      <br />
      <Button look="main">Write lines</Button>
    </p>
  </Specimen>
)
