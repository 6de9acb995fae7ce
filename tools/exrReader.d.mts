export const EXR_READER: RegExp
export function endingExrReader(text: string): string
export const exrReaderThatEnds: import('esbuild').Plugin
