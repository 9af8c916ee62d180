import css from './Words.module.css'

interface Stretch {
  readonly kind: 'same' | 'added' | 'removed'
  readonly text: string
}

/** A text with what was put in underlined and what was taken out struck through; colour only repeats that. */
export const Words = ({ of }: { of: readonly Stretch[] }) => (
  <span className={css['words']}>
    {of.map(({ kind, text }, index) =>
      kind === 'same' ? (
        <span key={index}>{text}</span>
      ) : kind === 'added' ? (
        <ins key={index}>{text}</ins>
      ) : (
        <del key={index}>{text}</del>
      ),
    )}
  </span>
)
