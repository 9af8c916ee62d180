import { type ChainedCommands, type Editor, Mark, mergeAttributes } from '@tiptap/core'
import { Image } from '@tiptap/extension-image'
import { TableKit } from '@tiptap/extension-table'
import { EditorContent, useEditor } from '@tiptap/react'
import StarterKit from '@tiptap/starter-kit'
import { useContext } from 'react'
import css from './RichText.module.css'
import { PictureContext } from './pictures.ts'

/** A coloured background for what must not be overlooked; the tone is a word, so that both themes can show it. */
const Tone = Mark.create({
  name: 'tone',
  addAttributes: () => ({
    tone: {
      default: 'warn',
      parseHTML: (element) => element.getAttribute('data-tone') ?? 'warn',
      renderHTML: (attributes: Readonly<Record<string, unknown>>) => ({ 'data-tone': attributes['tone'] }),
    },
  }),
  parseHTML: () => [{ tag: 'mark' }],
  renderHTML: ({ HTMLAttributes }) => ['mark', mergeAttributes(HTMLAttributes), 0],
})

const extensions = [
  StarterKit.configure({ link: { openOnClick: false } }),
  Tone,
  Image,
  TableKit.configure({ table: { resizable: false } }),
]

interface EditorProps {
  readonly html: string
  readonly label: string
  /** Hears every change as it is typed. */
  readonly onType?: (html: string) => void
  readonly onDone: (html: string | null) => void
}

/** An editor that takes pictures where somebody keeps them. */
function useOwnEditor({ html, label, onType }: Omit<EditorProps, 'onDone'>): Editor | null {
  const keepPicture = useContext(PictureContext)
  const place = (files: readonly File[]) => {
    const pictures = files.filter(({ type }) => type.startsWith('image/'))
    if (!keepPicture || pictures.length === 0) return false
    for (const file of pictures)
      void keepPicture(file).then((src) => {
        if (src !== null) editor?.chain().focus().setImage({ src, alt: file.name }).run()
      })
    return true
  }
  const editor = useEditor({
    extensions,
    content: html,
    immediatelyRender: false,
    autofocus: 'end',
    // The tools say what the caret stands in.
    shouldRerenderOnTransaction: true,
    onUpdate: ({ editor: own }) => onType?.(writtenIn(own)),
    editorProps: {
      attributes: { 'aria-label': label, role: 'textbox', 'aria-multiline': 'true', spellcheck: 'true' },
      handlePaste: (_view, event) => place([...(event.clipboardData?.files ?? [])]),
      handleDrop: (_view, event) => place([...(event.dataTransfer?.files ?? [])]),
    },
  })
  return editor
}

/** What was written; nothing when no word, picture, table or rule is left. */
const writtenIn = (editor: Editor): string => {
  const html = editor.getHTML()
  return editor.isEmpty && !/<(img|table|hr)/.test(html) ? '' : html
}

/** The editor itself, loaded when somebody begins to write. Ctrl+Enter or leaving stores, Esc takes back. */
export function RichEditor({ onDone, ...of }: EditorProps) {
  const editor = useOwnEditor(of)
  if (!editor) return null
  return (
    <div
      className={css['editor']}
      onBlur={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget)) onDone(writtenIn(editor))
      }}
      onKeyDown={(event) => {
        event.stopPropagation()
        if (event.key === 'Escape') onDone(null)
        if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) onDone(writtenIn(editor))
      }}
    >
      <div className={css['tools']} role="toolbar" aria-label="Emphasis, lists and tables">
        {toolsOf(editor).map(({ name, shown, run, active }) => (
          <button
            key={name}
            type="button"
            aria-label={name}
            title={name}
            aria-pressed={active}
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => run(editor.chain().focus()).run()}
          >
            {shown}
          </button>
        ))}
      </div>
      <EditorContent editor={editor} className={css['text']} />
    </div>
  )
}

interface Tool {
  readonly name: string
  readonly shown: string
  readonly run: (chain: ChainedCommands) => ChainedCommands
  readonly active: boolean
}

/** What can be done where the caret stands. */
function toolsOf(editor: Editor): Tool[] {
  const inTable = editor.isActive('table')
  const tool = (name: string, shown: string, run: Tool['run'], active = editor.isActive(name)) => ({
    name,
    shown,
    run,
    active,
  })
  return [
    tool('bold', 'B', (chain) => chain.toggleBold()),
    tool('italic', 'I', (chain) => chain.toggleItalic()),
    tool('warning', '!', (chain) => chain.toggleMark('tone', { tone: 'warn' }), editor.isActive('tone')),
    tool('code', '<>', (chain) => chain.toggleCode()),
    tool('bulletList', '• list', (chain) => chain.toggleBulletList()),
    tool('orderedList', '1. list', (chain) => chain.toggleOrderedList()),
    ...(inTable
      ? [
          tool('row below', '+ row', (chain) => chain.addRowAfter(), false),
          tool('column after', '+ column', (chain) => chain.addColumnAfter(), false),
          tool('take the row away', '− row', (chain) => chain.deleteRow(), false),
          tool('take the column away', '− column', (chain) => chain.deleteColumn(), false),
          tool('take the table away', '× table', (chain) => chain.deleteTable(), false),
        ]
      : [tool('table', 'table', (chain) => chain.insertTable({ rows: 3, cols: 2, withHeaderRow: true }))]),
  ]
}
