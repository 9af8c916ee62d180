import type { Build, Looking } from '../../standins/crossing-desk/builds.ts'
import { devices, engines } from '../../standins/crossing-desk/builds.ts'
import { type FaultId, faults, shows } from '../../standins/crossing-desk/faults.ts'
import type { WrittenCase } from '../basis/read-basis.ts'

/** What makes a case fail: which step of its own, and the fault. */
export interface Met {
  readonly step: number
  readonly fault: FaultId
}

/** The environments of the sample project, by what a page is told of them. */
function lookingFrom(environment: string): Looking {
  const [engineName = '', deviceName = ''] = environment.split(', ')
  return {
    engine: engines.find((each) => each === engineName) ?? 'Chromium',
    device: devices.find((each) => each === deviceName) ?? 'desk',
    language: 'en',
  }
}

/** What a case says somebody is to look as, in each of its rows; where it says nothing, the environment decides. */
function lookingsOf(own: WrittenCase, environment: string): Looking[] {
  const from = lookingFrom(environment)
  const said = own.steps.flatMap((step) => ('action' in step ? [/look as ([\w{}]+), ([\w{}]+)/.exec(step.action)] : []))
  const [, engine = from.engine, device = from.device] = said.find((each) => each !== null) ?? []
  const rows = own.rows.length > 0 ? own.rows : [[]]
  return rows.map((row) => {
    const filled = (text: string) =>
      text.replace(/\{(\w+)\}/, (_, name: string) => row[own.columns.indexOf(name)] ?? '')
    return lookingFrom(`${filled(engine)}, ${filled(device)}`)
  })
}

/**
 * The first step that fails on a build in an environment, by the table of faults; `null` on one without. A case that names a fault of
 * one language chooses that language itself.
 */
export function metBy(own: WrittenCase, build: Build, environment: string): Met | null {
  const lookings = lookingsOf(own, environment)
  for (const [at, step] of own.steps.entries()) {
    if (!('fault' in step) || step.fault === null) continue
    const { fault } = step
    const language = faults[fault].only?.language ?? 'en'
    if (lookings.some((looking) => shows(fault, build, { ...looking, language }))) return { step: at, fault }
  }
  return null
}
