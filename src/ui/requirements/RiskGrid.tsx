import css from './RiskGrid.module.css'

const grades = [1, 2, 3, 4, 5] as const

/** Likelihood across, impact upwards; the chosen square is lit. Arrows move, Enter chooses: they are plain buttons. */
export function RiskGrid({
  likelihood,
  impact,
  onSet,
}: {
  likelihood: number | null
  impact: number | null
  onSet: (likelihood: number | null, impact: number | null) => void
}) {
  return (
    <div>
      <div className={css['grid']} role="group" aria-label="Risk: impact upwards, likelihood across">
        {[...grades].reverse().map((up) =>
          grades.map((across) => (
            <button
              key={`${up}${across}`}
              type="button"
              className={css['square']}
              data-heat={Math.ceil((up * across) / 5)}
              aria-pressed={likelihood === across && impact === up}
              aria-label={`likelihood ${across}, impact ${up}`}
              onClick={() => onSet(across, up)}
            >
              {up * across}
            </button>
          )),
        )}
      </div>
      <p className={css['axis']}>
        <span>likelihood → across, impact ↑ up</span>
        <button type="button" onClick={() => onSet(null, null)}>
          not given
        </button>
      </p>
    </div>
  )
}
