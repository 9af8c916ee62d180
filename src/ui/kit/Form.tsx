import type { ComponentProps } from 'react'

/** A form that is sent by Enter or its button, and, once scripts are there, never by the browser; `onSend` is given what was filled in by its names. */
export const Form = ({
  onSend,
  ...rest
}: Omit<ComponentProps<'form'>, 'onSubmit'> & { onSend: (filled: FormData) => void }) => (
  <form
    {...rest}
    onSubmit={(event) => {
      event.preventDefault()
      onSend(new FormData(event.currentTarget))
    }}
  />
)
