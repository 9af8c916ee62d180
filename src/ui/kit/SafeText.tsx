import type { ComponentProps } from 'react'
import type { SafeHtml } from '#core/lib/safe-html.ts'

interface Props extends Omit<ComponentProps<'div'>, 'children' | 'dangerouslySetInnerHTML'> {
  readonly html: SafeHtml
  readonly inline?: boolean
}

/** The one place where rich text becomes part of the page; only what the cleaner made gets here. */
export function SafeText({ html, inline = false, ...rest }: Props) {
  const Tag = inline ? 'span' : 'div'
  return <Tag {...rest} dangerouslySetInnerHTML={{ __html: html }} />
}
