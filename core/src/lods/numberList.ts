const FIGURES = 4

/** Numbers as an option of a step has them: with a space between, to four figures. */
export const textOfNumbers = (numbers: readonly number[]): string =>
  numbers.map((v) => String(Number(v.toPrecision(FIGURES)))).join(' ')

/** The numbers of such a text; none of an empty one. */
export const numbersOf = (text: string): number[] =>
  text.trim() === '' ? [] : text.trim().split(/\s+/).map(Number)
