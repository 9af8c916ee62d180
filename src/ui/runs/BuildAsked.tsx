import type { Desk } from '#core/runs/desk-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { momentText } from '#ui/kit/moment.ts'
import css from './Desk.module.css'
import type { useDesk } from './useDesk.ts'

type Build = ReturnType<typeof useDesk>['build']

/** What stands in the environment, where that is not what the run expects. */
export function BuildNote({ desk: { installed, run, item, attempt }, of }: { desk: Desk; of: Build }) {
  if (!of.differs || installed === null || attempt !== null) return null
  const other = of.said === run.buildId ? installed.build : run.buildId
  return (
    <div className={css['before']} role="note">
      <span className="quiet">build</span>
      <span>
        <b>{installed.name}</b> stands on {item.environment} since {momentText(installed.since)}
        {installed.by !== null && ` (${installed.by})`}, and the run expects <b>{run.build}</b>.{' '}
        {of.said !== null && (
          <>
            You execute on {of.said === run.buildId ? run.build : installed.name};{' '}
            <Button look="word" onClick={() => of.say(other)}>
              it is {other === run.buildId ? run.build : installed.name}
            </Button>
          </>
        )}
      </span>
    </div>
  )
}

/** Asks on which of the two one executes, before anything is recorded. */
export function BuildAsked({ desk: { installed, run, item }, of }: { desk: Desk; of: Build }) {
  if (!of.asks || installed === null) return null
  return (
    <Dialog title="Which build do you execute on?" onClose={() => of.say(null)}>
      <p>
        {item.environment} has <b>{installed.name}</b> since {momentText(installed.since)}
        {installed.by !== null && `, as ${installed.by} said`}; the run expects <b>{run.build}</b>. Look at what the
        application tells of itself. It is asked once for this run here.
      </p>
      <p className={css['builds']}>
        <Button look="main" data-first onClick={() => of.say(installed.build)}>
          {installed.name}, as installed
        </Button>
        <Button onClick={() => of.say(run.buildId)}>{run.build}, as the run says</Button>
      </p>
    </Dialog>
  )
}
