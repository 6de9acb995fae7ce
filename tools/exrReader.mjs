import { readFileSync } from 'node:fs'

/** The reader of OpenEXR that three has. */
export const EXR_READER = /three[\\/]examples[\\/]jsm[\\/]loaders[\\/]EXRLoader\.js$/

/**
 * In a damaged block that unpacks to more values than it says, that reader takes the same step for ever. This
 * gives its text with an error there, as the format's own library has one; it fails when the text is another
 * than it was made for.
 */
export function endingExrReader(text) {
  const from = text.indexOf('function getCode('),
    to = text.indexOf('function ', from + 9),
    step = text.slice(from, to)
  if (from < 0 || step.split('return false;').length !== 3)
    throw new Error(
      'three has another EXR reader: look whether it still goes round for ever in damaged blocks',
    )
  return (
    text.slice(0, from) +
    step.replaceAll(
      'return false;',
      "throw new Error( 'THREE.EXRLoader: a block holds more than it says' );",
    ) +
    text.slice(to)
  )
}

/** For esbuild. */
export const exrReaderThatEnds = {
  name: 'exr-reader-that-ends',
  setup(b) {
    b.onLoad({ filter: EXR_READER }, ({ path }) => ({
      contents: endingExrReader(readFileSync(path, 'utf8')),
      loader: 'js',
    }))
  },
}
