import { CallFailed } from '../api/client'

/** An error whose words are meant for a person. */
export class SaidError extends Error {}

/** What a person is told of an error: the server's words, or that the page itself is at fault. */
export const troubleWords = (error: unknown): string =>
  error instanceof CallFailed
    ? error.fault.why
    : error instanceof SaidError
      ? error.message
      : 'The page met a fault of its own; load it again.'
