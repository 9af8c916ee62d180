import { builds, devices, engines } from '../builds.ts'
import { timeOf, dayOf } from '../clock.ts'
import { type Seen, staff, staffPassword } from '../seen.ts'
import { islandCards, testCards } from '../world.ts'
import { Choice, Field, Form, Layout, Table } from './layout.tsx'

/** What a tester needs and no passenger sees: the build, the clock, the known state, and the data that lead somewhere. */
export function Bench({ of }: { of: Seen }) {
  const { build, looking, world } = of
  return (
    <Layout of={of} title="Test bench">
      <p>
        Build <b>{build}</b>. Others:{' '}
        {builds
          .filter((each) => each !== build)
          .map((each, at) => (
            <span key={each}>
              {at > 0 && ', '}
              <a href={`/${each}/bench`}>{each}</a>
            </span>
          ))}
        . Each has a state and a clock of its own.
      </p>
      <h2>Clock and state</h2>
      <Form of={of} to="/bench/reset" inline>
        <button>Set everything to the known state, Tuesday 12 May 2026, 09:00</button>
      </Form>
      <Form of={of} to="/bench/clock" inline aria-label="Clock">
        <Field label="Day" name="day" type="date" value={dayOf(world.now())} />
        <Field label="Time" name="time" value={timeOf(world.now())} />
        <button>Set the clock</button>
      </Form>
      <Form of={of} to="/bench/move" inline aria-label="Move the clock">
        <Field label="Minutes" name="minutes" value="5" />
        <button>Move the clock on</button>
      </Form>
      <p>
        {world.isRunning() ? (
          'The clock runs. Once it is set or moved it stands, so that an instant can be met to the second.'
        ) : (
          <Form of={of} to="/bench/run" inline>
            <span>The clock stands.</span> <button>Let the clock run</button>
          </Form>
        )}
      </p>
      <h2>Who looks</h2>
      <Form of={of} to="/bench/as" inline aria-label="Who looks">
        <Choice label="Engine" name="engine" value={looking.engine} options={engines.map((each) => [each, each])} />
        <Choice label="Device" name="device" value={looking.device} options={devices.map((each) => [each, each])} />
        <button>Look as these</button>
      </Form>
      <h2>Data that lead somewhere</h2>
      <Data of={of} />
      <p>
        <a href={`/${build}/bank`}>The bank’s test desk</a>
      </p>
    </Layout>
  )
}

const Data = ({ of: { world } }: { of: Seen }) => (
  <>
    <Table label="People" head={['Name', 'Password', 'Who it is']}>
      {Object.entries(staff).map(([who, { name }]) => (
        <tr key={who}>
          <td>{who}</td>
          <td>{staffPassword}</td>
          <td>{name}</td>
        </tr>
      ))}
    </Table>
    <Table label="Cards" head={['Card', 'What it does']}>
      {Object.entries(testCards).map(([card, does]) => (
        <tr key={card}>
          <td>{card.replace(/(.{4})(?=.)/g, '$1 ')}</td>
          <td>{does}</td>
        </tr>
      ))}
    </Table>
    <Table label="Vouchers" head={['Voucher', 'Left on it', 'Until']}>
      {[...world.vouchers.values()].map(({ number, balance, until }) => (
        <tr key={number}>
          <td>{number}</td>
          <td>{(balance / 100).toFixed(2)}</td>
          <td>{until}</td>
        </tr>
      ))}
    </Table>
    <Table label="Accounts" head={['Account', 'Company', 'Left this month']}>
      {[...world.accounts.values()].map(({ number, name, limit, used, blocked }) => (
        <tr key={number}>
          <td>{number}</td>
          <td>{name}</td>
          <td>{blocked ? 'blocked' : ((limit - used) / 100).toFixed(2)}</td>
        </tr>
      ))}
    </Table>
    <Table label="Island cards" head={['Island card', 'Until']}>
      {Object.entries(islandCards).map(([card, { until }]) => (
        <tr key={card}>
          <td>{card}</td>
          <td>{until}</td>
        </tr>
      ))}
    </Table>
  </>
)
