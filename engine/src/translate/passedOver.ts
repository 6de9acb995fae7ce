/**
 * What a reader passed over, for the facts: how many kinds of things, since its own words are for programmers
 * and would not help who made the file.
 */
export const passedOver = (said: readonly string[]): string[] =>
  said.length === 0
    ? []
    : [`${said.length} ${said.length === 1 ? 'thing' : 'things'} that the reader passed over`]
