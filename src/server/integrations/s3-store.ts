import { createReadStream } from 'node:fs'
import { rm, stat } from 'node:fs/promises'
import { Refusal } from '#core/lib/refusal.ts'
import type { EvidenceStore } from '#core/talk/evidence-store.ts'

export interface S3Place {
  readonly bucket: string
  /** What names begin with, such as `evidence/`. */
  readonly prefix: string
  readonly region: string
  /** Where the store is, for those that are not the one the client knows. */
  readonly endpoint?: string | undefined
}

const tries = 3

/** The client is large, and most installations keep evidence in a folder. */
async function connect({ region, endpoint }: S3Place) {
  const sdk = await import('@aws-sdk/client-s3')
  const nobody = () => undefined
  const client = new sdk.S3Client({
    region,
    ...(endpoint !== undefined && { endpoint, forcePathStyle: true }),
    maxAttempts: tries,
    requestHandler: { connectionTimeout: 5000, socketTimeout: 30_000 },
    requestChecksumCalculation: 'WHEN_REQUIRED',
    responseChecksumValidation: 'WHEN_REQUIRED',
    // What goes wrong is told by whoever asked.
    logger: { debug: nobody, info: nobody, warn: nobody, error: nobody },
  })
  return { sdk, client }
}

/**
 * Evidence in a bucket of a store that speaks the S3 interface, by the standard client, which also finds the credentials
 * (`AWS_ACCESS_KEY_ID` and `AWS_SECRET_ACCESS_KEY`, a file of profiles, the role of the machine). The store is told the hash of what is
 * put there, so that it takes in no other bytes.
 */
export function s3Store(place: S3Place): EvidenceStore {
  const { bucket, prefix, endpoint } = place
  const connected = connect(place)
  const of = (hash: string) => ({ Bucket: bucket, Key: `${prefix}${hash}` })
  return {
    place: `s3://${bucket}/${prefix}${endpoint === undefined ? '' : ` at ${endpoint}`}`,
    put: async (hash, file) => {
      const { sdk, client } = await connected
      const whole = {
        ...of(hash),
        ContentLength: (await stat(file)).size,
        ChecksumSHA256: Buffer.from(hash, 'hex').toString('base64'),
      }
      try {
        await againWhere(isPassing, () =>
          client.send(new sdk.PutObjectCommand({ ...whole, Body: createReadStream(file) })),
        )
      } catch (error) {
        throw away(error, 'did not take the file, so nothing was stored; try it again, or tell whoever runs the server')
      } finally {
        await rm(file, { force: true })
      }
    },
    read: async (hash) => {
      const { sdk, client } = await connected
      try {
        const { Body } = await client.send(new sdk.GetObjectCommand(of(hash)))
        // In Node the client answers a stream, which is read in parts.
        return (Body as AsyncIterable<Uint8Array> | undefined) ?? null
      } catch (error) {
        if (error instanceof sdk.NoSuchKey) return null
        throw away(error, 'did not answer; try it again, or tell whoever runs the server')
      }
    },
    list: async function* () {
      const { sdk, client } = await connected
      let next: string | undefined
      do {
        const asked = { Bucket: bucket, Prefix: prefix, ContinuationToken: next }
        const page = await client.send(new sdk.ListObjectsV2Command(asked)).catch((error: unknown) => {
          throw away(error, 'did not tell what it holds')
        })
        for (const { Key = '', Size = 0, LastModified } of page.Contents ?? [])
          yield { hash: Key.slice(prefix.length), bytes: Size, at: LastModified?.getTime() ?? 0 }
        next = page.NextContinuationToken
      } while (next !== undefined)
    },
    remove: async (hash) => {
      const { sdk, client } = await connected
      await client.send(new sdk.DeleteObjectCommand(of(hash))).catch((error: unknown) => {
        throw away(error, 'did not take the file away')
      })
    },
  }
}

/** The client does not do a stream again by itself, as it cannot begin it anew. */
async function againWhere<T>(passes: (error: unknown) => boolean, work: () => Promise<T>): Promise<T> {
  for (let n = 1; ; n++)
    try {
      return await work()
    } catch (error) {
      if (n === tries || !passes(error)) throw error
      await new Promise((resolve) => setTimeout(resolve, 100 * 2 ** n))
    }
}

/** Whether it may go better the next time: the store is busy, or was not reached. */
function isPassing(error: unknown): boolean {
  const { $metadata } = Object(error) as { $metadata?: { httpStatusCode?: number } }
  return $metadata?.httpStatusCode === undefined || $metadata.httpStatusCode >= 500
}

const away = (error: unknown, what: string): Refusal =>
  new Refusal('not-reached', `The store where evidence is kept ${what} (${reasonOf(error)}).`)

const reasonOf = (error: unknown): string =>
  error instanceof Error ? (error.message || error.name).split('\n')[0]!.slice(0, 200) : 'it gave no reason'
