import { TwoTexts, TwoTextsOf } from '#ui/kit/TwoTexts.tsx'
import type { OwnModel } from './useModel.ts'

const names: Readonly<Record<string, string>> = {
  parameters: 'Parameters',
  groups: 'Stronger groups',
  strength: 'Strength',
  inputs: 'Inputs and their partitions',
  values: 'Values at an edge',
  conditions: 'Conditions',
  rules: 'Rules',
  impossible: 'Impossible together',
  per: 'One case per',
  transitions: 'States and transitions',
  criterion: 'Cover',
  invalid: 'Events refused',
}

/** Where two wrote in one part of a model. */
export const ModelClashes = ({ of: { clashes, choose } }: { of: OwnModel['joining'] }) =>
  clashes.length === 0 ? null : (
    <TwoTexts said="Somebody else stored this model while you were typing. Choose which stands where both wrote; all else is together already.">
      {clashes.map((clash) => (
        <TwoTextsOf
          key={`${clash.name} ${clash.setting}`}
          of={{ ...clash, name: names[clash.name] ?? clash.name }}
          choices={['theirs', 'mine']}
          onChoose={(choice) => choose(clash, choice)}
        />
      ))}
    </TwoTexts>
  )
