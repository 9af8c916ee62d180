import type { ReactNode } from 'react'
import { languages } from '../builds.ts'
import { timeOf } from '../clock.ts'
import { type Seen, staff } from '../seen.ts'
import { dayText, languageNames } from '../words.ts'

/** Every page: the name and the clock above, what was told, and the ways on. */
export function Layout({ of, title, children }: { of: Seen; title: string; children: ReactNode }) {
  const { build, looking, who, words, told, refused, world } = of
  const over = of.has('footer-over-last-row')
  return (
    <html lang={looking.language}>
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <title>{`${title} – Crossing Desk ${build}`}</title>
        <link rel="stylesheet" href="/crossing.css" />
        <script src="/crossing.js" defer />
      </head>
      <body data-device={looking.device} data-engine={looking.engine} data-footer={over ? 'over' : undefined}>
        <header className="top">
          <a className="brand" href={`/${build}/`}>
            <b>Crossing Desk</b> <small>Tarnsey Ferries</small>
          </a>
          <Ways of={of} />
          <p className="clock">
            {dayText(world.now(), looking.language)}, <time>{timeOf(world.now())}</time>
          </p>
        </header>
        <main>
          <h1>{title}</h1>
          {told !== '' && (
            <p className="told" role="status">
              {told}
            </p>
          )}
          {refused !== '' && (
            <p className="refused" role="alert">
              {refused}
            </p>
          )}
          {children}
        </main>
        <footer>
          <form method="post" action={`/${build}/language`}>
            {languages.map((each) => (
              <button key={each} name="language" value={each} aria-pressed={each === looking.language}>
                {languageNames[each]}
              </button>
            ))}
          </form>
          <span>
            {who === null ? (
              <a href={`/${build}/sign-in`}>{words.signIn}</a>
            ) : (
              <Form of={of} to="/sign-out" inline>
                {staff[who].name} <button>{words.signOut}</button>
              </Form>
            )}
          </span>
          <a href={`/${build}/bench`}>build {build}: test bench</a>
        </footer>
      </body>
    </html>
  )
}

const passengerWays = (words: Seen['words']) => [
  ['/', words.findSailing],
  ['/my', words.myBooking],
]
const staffWays = [
  ['/bookings', 'Bookings'],
  ['/quay', 'Quay'],
  ['/deck', 'Deck plan'],
  ['/weather', 'Weather'],
  ['/messages', 'Messages'],
]
const Ways = ({ of: { build, words, who } }: { of: Seen }) => (
  <nav aria-label="Ways">
    {[...passengerWays(words), ...(who !== null && who !== 'lena' ? staffWays : [])].map(([to, name]) => (
      <a key={to} href={`/${build}${to}`}>
        {name}
      </a>
    ))}
  </nav>
)

export const Form = ({
  of,
  to,
  inline = false,
  children,
  ...rest
}: {
  of: Seen
  to: string
  inline?: boolean
  children: ReactNode
  id?: string
  'aria-label'?: string
}) => (
  <form method="post" action={`/${of.build}${to}`} className={inline ? 'inline' : 'lines'} {...rest}>
    {children}
  </form>
)

export const Field = ({
  label,
  name,
  value = '',
  type = 'text',
  hint,
}: {
  label: string
  name: string
  value?: string
  type?: string
  hint?: string
}) => (
  <label>
    <span>{label}</span>
    <input name={name} type={type} defaultValue={value} {...(hint !== undefined && { placeholder: hint })} />
  </label>
)

export const Choice = ({
  label,
  name,
  value = '',
  options,
}: {
  label: string
  name: string
  value?: string
  options: readonly (readonly [string, string])[]
}) => (
  <label>
    <span>{label}</span>
    <select name={name} defaultValue={value}>
      {options.map(([each, text]) => (
        <option key={each} value={each}>
          {text}
        </option>
      ))}
    </select>
  </label>
)

export const Table = ({
  label,
  head,
  amounts = false,
  children,
}: {
  label: string
  head: readonly string[]
  /** The last column holds amounts. */
  amounts?: boolean
  children: ReactNode
}) => (
  <table aria-label={label}>
    <thead>
      <tr>
        {head.map((each, at) => (
          <th key={each} scope="col" data-last={amounts && at === head.length - 1 ? 'amount' : undefined}>
            {each}
          </th>
        ))}
      </tr>
    </thead>
    <tbody>{children}</tbody>
  </table>
)
