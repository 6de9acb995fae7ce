/** Sent through the port when a thread takes its task up. */
export const BEGUN = null

/** What a thread sends: that it begins, words of progress, or the reference of a file that it looks for. */
export type ThreadWord = string | typeof BEGUN | { ask: string }
