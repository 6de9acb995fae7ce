import * as z from 'zod'

/** The bytes of numbers as base64, least byte first. */
export const textOf = (numbers: Float32Array | Uint8Array | Uint32Array): string =>
  z.util.uint8ArrayToBase64(new Uint8Array(numbers.buffer, numbers.byteOffset, numbers.byteLength))

export const bytesOf = (text: string): Uint8Array<ArrayBuffer> =>
  z.util.base64ToUint8Array(text) as Uint8Array<ArrayBuffer>
