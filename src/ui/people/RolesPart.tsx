import { allRoles, mayDo, type Right, rights } from '#core/lib/rights.ts'
import { Table } from '#ui/kit/Settings.tsx'
import css from './People.module.css'

const rightNames = Object.keys(rights) as Right[]

/** What each role may do, row by row. */
export const RolesPart = () => (
  <div className={css['roles']}>
    <Table label="What each role may do" head={['', ...allRoles]}>
      {rightNames.map((right) => (
        <tr key={right}>
          <td>{rights[right].says}</td>
          {allRoles.map((role) => (
            <td key={role}>
              {mayDo(role, right) ? (
                <span className={css['yes']} role="img" aria-label="yes">
                  ✓
                </span>
              ) : (
                <span className="quiet" role="img" aria-label="no">
                  –
                </span>
              )}
            </td>
          ))}
        </tr>
      ))}
    </Table>
  </div>
)
