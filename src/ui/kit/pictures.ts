import { createContext } from 'react'

/** Keeps a pasted picture and answers its address, or `null` when it was refused; absent where pictures cannot be kept. */
export const PictureContext = createContext<((file: File) => Promise<string | null>) | null>(null)
