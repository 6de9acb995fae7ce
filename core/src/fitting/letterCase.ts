/** How the words of a name are written, the narrowest first. */
export const letterCases = ['lower', 'upper', 'camel', 'pascal', 'any'] as const
export type LetterCase = (typeof letterCases)[number]

const tests: Record<LetterCase, RegExp> = {
  lower: /^[a-z0-9]+$/,
  upper: /^[A-Z0-9]+$/,
  camel: /^[a-z0-9][A-Za-z0-9]*$/,
  pascal: /^[A-Z0-9][A-Za-z0-9]*$/,
  any: /^[A-Za-z0-9]+$/,
}

/** The same as an expression for one word of a pattern. */
export const wordShapes: Record<LetterCase, string> = {
  lower: '[a-z0-9]+',
  upper: '[A-Z0-9]+',
  camel: '[a-z0-9][A-Za-z0-9]*',
  pascal: '[A-Z0-9][A-Za-z0-9]*',
  any: '[A-Za-z0-9]+',
}

export const caseTitles: Record<LetterCase, string> = {
  lower: 'small letters',
  upper: 'capitals',
  camel: 'small first letters, capitals inside',
  pascal: 'capital first letters',
  any: 'letters of either kind',
}

export const isWritten = (word: string, as: LetterCase): boolean => tests[as].test(word)

/** The narrowest way that all these words are written in; null where one holds anything but letters and figures. */
export const caseOf = (words: readonly string[]): LetterCase | null =>
  letterCases.find((c) => words.every((w) => tests[c].test(w))) ?? null
