const FIGURES = 4

/** Numbers as the options of a step have them: to four figures, so that a recipe can be read. */
export const toFourFigures = (numbers: readonly number[]): number[] =>
  numbers.map((v) => Number(v.toPrecision(FIGURES)))
