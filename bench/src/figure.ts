/** One line of the measurements: what was set against what, the wanted limit and what came out. */
export interface Figure {
  what: string
  measured: string
  ratio: number | null
  wanted: { most?: number; least?: number } | null
}

export const ratioText = (figure: Figure): string =>
  figure.ratio === null ? '–' : figure.ratio.toPrecision(3)

export function isReached({ ratio, wanted }: Figure): boolean | null {
  if (ratio === null || wanted === null) return null
  return (
    (wanted.most === undefined || ratio <= wanted.most) &&
    (wanted.least === undefined || ratio >= wanted.least)
  )
}

/** The table as Markdown. */
export function figuresTable(figures: readonly Figure[]): string {
  const wanted = ({ wanted: w }: Figure): string =>
    w === null ? '–' : w.most !== undefined ? `at most ${w.most}` : `at least ${w.least}`
  const word = (figure: Figure): string =>
    ({ true: 'reached', false: '**missed**', null: '–' })[
      String(isReached(figure)) as 'true' | 'false' | 'null'
    ]
  return [
    '| what | measured | ratio | wanted | |',
    '|---|---|---|---|---|',
    ...figures.map((f) => `| ${f.what} | ${f.measured} | ${ratioText(f)} | ${wanted(f)} | ${word(f)} |`),
  ].join('\n')
}
