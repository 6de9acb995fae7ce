import { homedir } from 'node:os'
import { join } from 'node:path'

/** The user's cache folder, by the XDG base directory specification. */
export const cacheFolder = (): string =>
  join(process.env['XDG_CACHE_HOME'] || join(homedir(), '.cache'), 'stern-gate')
