import { useEffect, useState } from 'react'
import { Button } from '#ui/kit/Button.tsx'
import { Form } from '#ui/kit/Form.tsx'
import css from './SetUp.module.css'

/** Lines of a setting, edited where they stand; what was refused stays in the field with all that was typed. */
export function TextSet({
  label,
  value,
  placeholder,
  may,
  onStore,
}: {
  label: string
  value: string
  placeholder: string
  may: boolean
  onStore: (text: string) => Promise<boolean>
}) {
  const [text, setText] = useState(value)
  const [begun, setBegun] = useState(value)
  useEffect(() => {
    // What somebody else stored meanwhile does not take away what is being typed here.
    if (text === begun) setText(value)
    setBegun(value)
  }, [value])
  if (!may) return value === '' ? <p className="quiet">none</p> : <pre className={css['lines']}>{value}</pre>
  const store = async () => {
    if (await onStore(text.trim())) setText(text.trim())
  }
  return (
    <Form className={css['text']} onSend={() => void store()}>
      <textarea
        aria-label={label}
        placeholder={placeholder}
        rows={Math.min(12, Math.max(3, text.split('\n').length))}
        value={text}
        spellCheck={false}
        onChange={(event) => setText(event.target.value)}
      />
      <span className={css['rowActs']}>
        <Button type="submit" disabled={text.trim() === value}>
          Store
        </Button>
        {text.trim() !== value && (
          <Button look="word" onClick={() => setText(value)}>
            as it was
          </Button>
        )}
      </span>
    </Form>
  )
}
