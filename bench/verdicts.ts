import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { ask, begin, type Measured, ms, quantile, type Setting, timed, verdictBody } from './measure.ts'

/** A step verdict over HTTP against doing nothing over HTTP plus a bare transaction of the same rows, interleaved. */
export async function benchVerdicts(setting: Setting): Promise<Measured[]> {
  const [verdicts, nothings, bares]: [number[], number[], number[]] = [[], [], []]
  const bare = bareTransaction(join(mkdtempSync(join(tmpdir(), 'rovant-bare-')), 'bare.db'))
  let begun = await begin(setting, Math.floor(Math.random() * 10_000))
  for (let n = 0; n < setting.samples + 100; n++) {
    const step = n % begun.steps.length
    const body = verdictBody(n % 7 === 0 ? 'Failed' : 'Passed')
    await timed(verdicts, () =>
      ask(setting, 'PUT', `/projects/LARGE/attempts/${begun.attempt}/rows/1/steps/${begun.steps[step]}`, body),
    )
    await timed(nothings, () => ask(setting, 'PUT', '/projects/LARGE/nothing', body))
    await timed(bares, () => bare(n, JSON.stringify(body)))
    if (step === begun.steps.length - 1) begun = await begin(setting, (n * 7) % 15_000)
  }
  const of = (samples: number[], share: number) => quantile(samples.slice(100), share)
  const baseline = of(nothings, 0.5) + of(bares, 0.5)
  const ratio = of(verdicts, 0.5) / baseline
  return [
    {
      name: 'a step verdict over HTTP',
      met: ratio <= 2,
      figures: { p50: of(verdicts, 0.5), p95: of(verdicts, 0.95), baseline, ratio, samples: setting.samples },
      text: `p50 ${ms(of(verdicts, 0.5))}, p95 ${ms(of(verdicts, 0.95))}; ${ratio.toFixed(2)} × baseline (nothing over HTTP ${ms(of(nothings, 0.5))} + bare transaction ${ms(of(bares, 0.5))}; aim 2 ×)`,
    },
  ]
}

/** The rows a verdict writes, in one transaction with the same durability, on a database of its own. */
function bareTransaction(file: string): (n: number, body: string) => void {
  const db = new Database(file)
  db.pragma('journal_mode = WAL')
  db.pragma('synchronous = FULL')
  db.exec(`
    create table attempt_step (
      attempt_id, "row", step_id, verdict, word, final, comment, at,
      primary key (attempt_id, "row", step_id)
    ) without rowid;
    create table verdict_event (
      id integer primary key, attempt_id, client_id, sequence, person_id, change, at, received_at
    );
    create unique index once on verdict_event (client_id, sequence);
    create index by_attempt on verdict_event (attempt_id, id);
    create table attempt (id integer primary key, verdict, final, finished_at);
    create table item (id integer primary key, verdict);
    create table change (id integer primary key, project_id, at, person_id, kind, owner_id, ref, action);
    create index by_owner on change (kind, owner_id, id);
    create index by_project on change (project_id, id);
    create table standing_result (
      build_id, case_id, environment_id, attempt_id, verdict, finished_at, fingerprint,
      primary key (build_id, case_id, environment_id)
    ) without rowid;
  `)
  for (let id = 1; id <= 100; id++)
    db.exec(`insert into attempt values (${id}, 'Not run', 0, null); insert into item values (${id}, 'Not run')`)
  const statements = [
    db.prepare(
      `insert into attempt_step values (@a, 1, @s, 'Passed', null, 1, '', @n) on conflict do update set verdict = 'Passed', at = @n`,
    ),
    db.prepare(
      `insert into verdict_event (attempt_id, client_id, sequence, person_id, change, at, received_at) values (@a, 'bench-client-1', @n, 'bench', @body, @n, @n)`,
    ),
    db.prepare(`update attempt set verdict = 'Passed', final = 1, finished_at = @n where id = @a`),
    db.prepare(`update item set verdict = 'Passed' where id = @a`),
    db.prepare(
      `insert into change (project_id, at, person_id, kind, owner_id, ref, action) values (1, @n, 'bench', 'attempt', @a, '1', 'recorded')`,
    ),
    db.prepare(
      `insert into standing_result values (1, @a, @s, @a, 'Passed', @n, 'f') on conflict do update set verdict = 'Passed', finished_at = @n`,
    ),
  ]
  const run = db.transaction((values: object) => {
    for (const statement of statements) statement.run(values)
  })
  return (n, body) => run.immediate({ a: (n % 100) + 1, s: n % 5, n, body })
}
