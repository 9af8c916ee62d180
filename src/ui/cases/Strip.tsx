import type { CaseSheet } from '#core/cases/contract.ts'
import { numberIn } from '#core/lib/key.ts'
import { attemptsAddress } from '#ui/shell/attempts.ts'
import { useHere } from '#ui/shell/here.ts'
import { SaidMark } from '#ui/shell/SaidMark.tsx'
import { stripOf } from './strip-of.ts'
import css from './Strip.module.css'

/** What a case came to in each environment, build after build; each mark leads to its attempt. */
export function Strip({ of }: { of: CaseSheet }) {
  const { key, project } = useHere()
  const strip = stripOf(
    of.attempts,
    project.builds.map(({ name }) => name),
  )
  const all = attemptsAddress(key, 'case', numberIn('case', of.key))
  if (strip.builds.length === 0) return null
  return (
    <div className={css['scroll']} tabIndex={0} role="region" aria-label="Results over builds">
      <table className={css['strip']}>
        <thead>
          <tr>
            <td />
            {strip.builds.map((build) => (
              <th key={build} scope="col">
                {build.replace(/^.*-/, '')}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {strip.rows.map(({ environment, cells }) => (
            <tr key={environment}>
              <th scope="row">{environment}</th>
              {cells.map((cell, at) => (
                <td key={strip.builds[at]}>
                  {cell && (
                    <a
                      href={`${all}&attempt=${cell.id}`}
                      title={`${cell.word ?? cell.verdict} on ${cell.build}, ${environment}${cell.more > 0 ? `; ${cell.more} before it` : ''}`}
                    >
                      <SaidMark
                        verdict={cell.verdict}
                        word={cell.word}
                        label={`${cell.word ?? cell.verdict} on ${cell.build}, ${environment}`}
                      />
                      {cell.turned && <span className={css['turned']}>↯</span>}
                    </a>
                  )}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <p>
        <a href={all}>All its attempts, to filter and compare</a>
      </p>
    </div>
  )
}
