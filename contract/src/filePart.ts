import * as z from 'zod'

/** What a file of an asset is to it. A buffer is what a mesh keeps beside it: geometry, or a library of slots. */
export const fileParts = ['mesh', 'buffer', 'texture', 'surface'] as const
export const filePartSchema = z.enum(fileParts)
export type FilePart = z.infer<typeof filePartSchema>
