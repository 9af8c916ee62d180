import type { ReactNode } from 'react'
import { addFile } from '#core/talk/contract.ts'
import { PictureContext } from '#ui/kit/pictures.ts'
import { useWrite } from './answers.tsx'
import { useHere } from './here.ts'

/** Pictures pasted into the texts of an object are attached to it. */
export function Pictures({ about, children }: { about: string; children: ReactNode }) {
  const { key } = useHere()
  const { attempt } = useWrite(addFile)
  const keep = async (file: File) =>
    (await attempt({ params: { key }, query: { ref: about, name: file.name || 'picture.png' }, file }))?.url ?? null
  return <PictureContext value={keep}>{children}</PictureContext>
}
