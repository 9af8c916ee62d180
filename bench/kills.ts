import { killWhileRecording } from '../test/killing.ts'
import type { Measured } from './measure.ts'

/** `kill -9` at random moments under four writers, over and over; nothing that was acknowledged may be lost, and all data are sound each time. */
export async function benchKills(kills: number, say: (text: string) => void): Promise<Measured[]> {
  const { acknowledged, lost, unsound } = await killWhileRecording(kills, (round) => {
    if (round % 10 === 0) say(`  ${round} of ${kills} kills`)
  })
  return [
    {
      name: `${kills} kills under four writers`,
      met: lost.length === 0 && unsound.length === 0,
      figures: { kills, acknowledged, lost: lost.length, unsound: unsound.length },
      text: `${acknowledged} verdicts acknowledged, ${lost.length} lost, ${unsound.length} times not sound (aim 0 and 0)${[...lost, ...unsound].slice(0, 3).join('; ')}`,
    },
  ]
}
