import type { ComponentProps } from 'react'

/** A form that is sent by Enter or its button, and never by the browser. */
export const Form = ({ onSend, ...rest }: Omit<ComponentProps<'form'>, 'onSubmit'> & { onSend: () => void }) => (
  <form
    {...rest}
    onSubmit={(event) => {
      event.preventDefault()
      onSend()
    }}
  />
)
