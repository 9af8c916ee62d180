import { type Command, InvalidArgumentError } from 'commander'
import { counted, sumOf } from '#core/lib/figures.ts'
import { moveEvidence } from '#server/installation/move-evidence.ts'
import { type EvidencePlace, evidenceOf } from '#server/integrations/evidence-place.ts'
import { filesIn } from '#server/integrations/files-in.ts'
import { existingData } from './data.ts'
import { print } from './print.ts'

interface Asked {
  readonly data: string
  readonly to?: 'folder' | { readonly bucket: string; readonly prefix: string }
  readonly endpoint?: string
  readonly region: string
  readonly takeAway?: boolean
  readonly json?: boolean
}

export function addEvidence(program: Command): void {
  program
    .command('evidence')
    .description(
      'says where evidence is kept, or moves it: into a bucket of an S3-style store, or back into the folder',
    )
    .option('--data <dir>', 'data directory', 'data/main')
    .option('--to <place>', 's3://bucket/prefix, or folder', placeOf)
    .option('--endpoint <url>', 'where the store is', endpointOf)
    .option('--region <name>', 'region of the bucket', 'us-east-1')
    .option('--take-away', 'takes away the old copies of what is in the new place')
    .option('--json', 'one JSON document')
    .action(async (asked: Asked) => {
      existingData(asked.data).close()
      await (asked.to === undefined ? tell(asked) : move(asked, asked.to))
    })
}

async function tell({ data, json }: Asked): Promise<void> {
  const store = evidenceOf(data)
  const files = await filesIn(store)
  const held = { place: store.place, files: files.size, bytes: sumOf([...files.values()], ({ bytes }) => bytes) }
  print(json, held, () => [`${held.place}: ${counted(held.files, 'file')}, ${Math.ceil(held.bytes / 1024)} kB`])
}

async function move({ data, endpoint, region, takeAway, json }: Asked, to: NonNullable<Asked['to']>): Promise<void> {
  const place: EvidencePlace = to === 'folder' ? to : { ...to, region, ...(endpoint !== undefined && { endpoint }) }
  const moved = await moveEvidence(data, place, takeAway ?? false)
  print(json, moved, () => [
    `Evidence is kept in ${moved.to} now: ${counted(moved.copied, 'file')} copied, ${moved.there} there already.`,
    moved.takenAway > 0
      ? `${counted(moved.takenAway, 'file')} taken away from ${moved.from}.`
      : `The old copies in ${moved.from} are still there; --take-away takes them away.`,
  ])
}

function placeOf(text: string): NonNullable<Asked['to']> {
  if (text === 'folder') return text
  const [, bucket, prefix] = /^s3:\/\/([a-z0-9][a-z0-9.-]{1,61}[a-z0-9])(?:\/(.*))?$/.exec(text) ?? []
  if (bucket === undefined) throw new InvalidArgumentError('a place is like s3://bucket/prefix, or folder')
  return { bucket, prefix: prefix ? `${prefix.replace(/\/+$/, '')}/` : '' }
}

function endpointOf(text: string): string {
  const url = URL.canParse(text) ? new URL(text) : null
  if (url === null || !/^https?:$/.test(url.protocol) || url.username !== '')
    throw new InvalidArgumentError('an endpoint is like https://store.example:9000, with no name or password')
  return text
}
