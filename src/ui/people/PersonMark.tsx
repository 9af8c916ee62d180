import { readPicture } from '#core/people/own-contract.ts'
import { initials } from '#core/history/changes.ts'
import { addressOf } from '#ui/call.ts'
import css from './People.module.css'

/** A person as they are recognised: their picture, or their initials. */
export const PersonMark = ({
  of: { id, name, picture = false },
  large = false,
}: {
  of: { readonly id: string; readonly name: string; readonly picture?: boolean }
  large?: boolean
}) => (
  <span className={css['mark']} data-large={large || undefined} aria-hidden="true">
    {picture ? <img src={addressOf(readPicture, { params: { person: id } })} alt="" /> : initials(name)}
  </span>
)
