import picomatch from 'picomatch'
import { remembered } from '../caching/remembered'

const matcherOf = remembered(200, (glob) =>
  picomatch(glob, { dot: true, nocase: true, basename: !glob.includes('/') }),
)

/** Whether a path of a delivery fits a glob; one without a slash speaks of the file's name alone. */
export const fitsGlob = (glob: string, path: string): boolean => matcherOf(glob)(path)
