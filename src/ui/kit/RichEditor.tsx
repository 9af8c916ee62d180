import { Mark, mergeAttributes } from '@tiptap/core'
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

/** The editor itself, loaded when somebody begins to write. Ctrl+Enter or leaving stores, Esc takes back. */
export function RichEditor({
  html,
  label,
  onDone,
}: {
  html: string
  label: string
  onDone: (html: string | null) => void
}) {
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
    extensions: [
      StarterKit.configure({ link: { openOnClick: false } }),
      Tone,
      Image,
      TableKit.configure({ table: { resizable: false } }),
    ],
    content: html,
    immediatelyRender: false,
    autofocus: 'end',
    // The tools say what the caret stands in.
    shouldRerenderOnTransaction: true,
    editorProps: {
      attributes: { 'aria-label': label, role: 'textbox', 'aria-multiline': 'true', spellcheck: 'true' },
      handlePaste: (_view, event) => place([...(event.clipboardData?.files ?? [])]),
      handleDrop: (_view, event) => place([...(event.dataTransfer?.files ?? [])]),
    },
  })
  if (!editor) return null
  const finish = () => onDone(editor.isEmpty && !/<(img|table|hr)/.test(editor.getHTML()) ? '' : editor.getHTML())
  const tool = (name: string, shown: string, run: () => void, active = editor.isActive(name)) => (
    <button
      key={name}
      type="button"
      aria-label={name}
      title={name}
      aria-pressed={active}
      onMouseDown={(event) => event.preventDefault()}
      onClick={run}
    >
      {shown}
    </button>
  )
  const inTable = editor.isActive('table')
  return (
    <div
      className={css['editor']}
      onBlur={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget)) finish()
      }}
      onKeyDown={(event) => {
        event.stopPropagation()
        if (event.key === 'Escape') onDone(null)
        if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) finish()
      }}
    >
      <div className={css['tools']} role="toolbar" aria-label="Emphasis, lists and tables">
        {tool('bold', 'B', () => editor.chain().focus().toggleBold().run())}
        {tool('italic', 'I', () => editor.chain().focus().toggleItalic().run())}
        {tool(
          'warning',
          '!',
          () => editor.chain().focus().toggleMark('tone', { tone: 'warn' }).run(),
          editor.isActive('tone'),
        )}
        {tool('code', '<>', () => editor.chain().focus().toggleCode().run())}
        {tool('bulletList', '• list', () => editor.chain().focus().toggleBulletList().run())}
        {tool('orderedList', '1. list', () => editor.chain().focus().toggleOrderedList().run())}
        {!inTable &&
          tool('table', 'table', () =>
            editor.chain().focus().insertTable({ rows: 3, cols: 2, withHeaderRow: true }).run(),
          )}
        {inTable && tool('row below', '+ row', () => editor.chain().focus().addRowAfter().run(), false)}
        {inTable && tool('column after', '+ column', () => editor.chain().focus().addColumnAfter().run(), false)}
        {inTable && tool('take the row away', '− row', () => editor.chain().focus().deleteRow().run(), false)}
        {inTable && tool('take the column away', '− column', () => editor.chain().focus().deleteColumn().run(), false)}
        {inTable && tool('take the table away', '× table', () => editor.chain().focus().deleteTable().run(), false)}
      </div>
      <EditorContent editor={editor} className={css['text']} />
    </div>
  )
}
