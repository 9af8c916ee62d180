import type { ComponentProps } from 'react'

/** A form that is sent by Enter or its button, and, once scripts are there, never by the browser; `onSend` is given the form itself. */
export const Form = ({
  onSend,
  ...rest
}: Omit<ComponentProps<'form'>, 'onSubmit'> & { onSend: (form: HTMLFormElement) => void }) => (
  <form
    {...rest}
    onSubmit={(event) => {
      event.preventDefault()
      onSend(event.currentTarget)
    }}
  />
)
