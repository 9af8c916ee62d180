import { EditorContent, useEditor } from '@tiptap/react'
import StarterKit from '@tiptap/starter-kit'
import css from './RichText.module.css'

/** The editor itself, loaded when somebody begins to write. Ctrl+Enter or leaving stores, Esc takes back. */
export function RichEditor({ html, label, onDone }: { html: string; label: string; onDone: (html: string | null) => void }) {
  const editor = useEditor({
    extensions: [StarterKit.configure({ link: { openOnClick: false } })], content: html, immediatelyRender: false, autofocus: 'end',
    editorProps: { attributes: { 'aria-label': label, role: 'textbox', 'aria-multiline': 'true', spellcheck: 'true' } },
  })
  if (!editor) return null
  const finish = () => onDone(editor.isEmpty ? '' : editor.getHTML())
  const tool = (name: string, shown: string, run: () => void) => (
    <button key={name} type="button" aria-label={name} aria-pressed={editor.isActive(name)} onMouseDown={(event) => event.preventDefault()} onClick={run}>{shown}</button>
  )
  return (
    <div
      className={css['editor']}
      onBlur={(event) => { if (!event.currentTarget.contains(event.relatedTarget)) finish() }}
      onKeyDown={(event) => {
        event.stopPropagation()
        if (event.key === 'Escape') onDone(null)
        if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) finish()
      }}
    >
      <div className={css['tools']} role="toolbar" aria-label="Emphasis and lists">
        {tool('bold', 'B', () => editor.chain().focus().toggleBold().run())}
        {tool('italic', 'I', () => editor.chain().focus().toggleItalic().run())}
        {tool('code', '<>', () => editor.chain().focus().toggleCode().run())}
        {tool('bulletList', '• list', () => editor.chain().focus().toggleBulletList().run())}
        {tool('orderedList', '1. list', () => editor.chain().focus().toggleOrderedList().run())}
      </div>
      <EditorContent editor={editor} className={css['text']} />
    </div>
  )
}
