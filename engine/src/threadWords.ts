/** Sent through the port when a thread takes its task up; all that follows is progress, in words. */
export const BEGUN = null

export type ThreadWord = string | typeof BEGUN
