import { useState } from 'react'
import { printRun, runFileKinds, sendItemsOut } from '#core/runs/file-contract.ts'
import type { RunSheet } from '#core/runs/contract.ts'
import { type FilePart, fileParts } from '#core/runs/run-file.ts'
import { hasEnded } from '#core/runs/state.ts'
import { callFile } from '#ui/call.ts'
import { takeFile } from '#ui/formats/take-file.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { Ticks } from '#ui/plans/Ticks.tsx'
import { useHere } from '#ui/shell/here.ts'
import { BringIn } from './BringIn.tsx'
import css from './RunSheet.module.css'

const names: Readonly<Record<(typeof runFileKinds)[number], string>> = { pdf: 'PDF', xlsx: 'Workbook', csv: 'CSV' }
const partNames: Readonly<Record<FilePart, string>> = {
  rows: 'data rows',
  steps: 'steps',
  words: 'words: what happened',
  defects: 'defects',
  pictures: 'pictures, in a PDF',
}
const ticks = fileParts.map((part) => ({ id: part, name: partNames[part] }))

/** A run as a file: to keep, to be filled in elsewhere, and back again. */
export function RunFiles({ of }: { of: RunSheet }) {
  const { project } = useHere()
  const [bringing, setBringing] = useState(false)
  const goes = project.role === 'lead' && !hasEnded(of.state)
  return (
    <div className={css['shape']}>
      <Pop label="as a file" title={`${of.key} as a file`}>
        <Kept of={of} />
      </Pop>
      {goes && (
        <Pop label="send out" title="To be executed elsewhere">
          <SendOut of={of.key} />
        </Pop>
      )}
      {goes && (
        <Button look="word" onClick={() => setBringing(true)}>
          bring back
        </Button>
      )}
      {bringing && <BringIn of={of} onClose={() => setBringing(false)} />}
    </div>
  )
}

function Kept({ of }: { of: RunSheet }) {
  const { key } = useHere()
  const [parts, setParts] = useState<FilePart[]>(['words', 'defects'])
  const take = (as: (typeof runFileKinds)[number]) =>
    takeFile(
      (signal) => callFile(printRun, { params: { key, ref: of.key }, query: { as, with: parts.join(',') }, signal }),
      ({ name, left }) =>
        `${name} is written${left.length > 0 ? `, without ${left.join(', ')}: they are too many for one file` : ''}.`,
    )
  return (
    <>
      <Ticks legend={`All its items with their results, and with`} all={ticks} ticked={parts} onTick={setParts} />
      <As onTake={(as) => void take(as)} />
    </>
  )
}

/** Items to be filled in on paper or in a spreadsheet; all that is still to be executed where none are named. */
export function SendOut({ of, ids }: { of: string; ids?: readonly number[] }) {
  const { key } = useHere()
  const take = (as: (typeof runFileKinds)[number]) =>
    takeFile(
      (signal) =>
        callFile(sendItemsOut, { params: { key, ref: of }, body: { as, ...(ids && { ids: [...ids] }) }, signal }),
      ({ name }) => `${name} is written. Bring it back here when it is filled in.`,
    )
  return (
    <>
      <p style={{ maxInlineSize: 340, marginBlockEnd: 10 }}>
        {ids ? 'These' : 'All that is still to be executed'}, with steps and data rows, each with its key and version,
        and room for the verdict and what happened. A workbook or CSV is read again when it comes back; from paper
        somebody types it in.
      </p>
      <As onTake={(as) => void take(as)} />
    </>
  )
}

const As = ({ onTake }: { onTake: (as: (typeof runFileKinds)[number]) => void }) => (
  <p className={css['shape']}>
    {runFileKinds.map((as) => (
      <Button key={as} onClick={() => onTake(as)}>
        {names[as]}
      </Button>
    ))}
  </p>
)
