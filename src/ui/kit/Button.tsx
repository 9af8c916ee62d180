import type { ButtonHTMLAttributes, ReactNode } from 'react'
import css from './Button.module.css'

interface Props extends ButtonHTMLAttributes<HTMLButtonElement> {
  readonly look?: 'main' | 'plain' | 'word' | 'danger'
  readonly children: ReactNode
}

/** `main` once a place, `plain` beside it, `word` inside a sentence. */
export const Button = ({ look = 'plain', className, ...rest }: Props) => (
  <button type="button" {...rest} className={`${css[look]} ${className ?? ''}`} />
)
