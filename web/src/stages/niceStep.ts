/** Smallest of 1, 2, 5 × 10ⁿ that spans at least `leastPx` at this scale. */
export function niceStep(pxPerUnit: number, leastPx: number): number {
  if (!(pxPerUnit > 0) || !Number.isFinite(pxPerUnit)) return 1
  const raw = leastPx / pxPerUnit
  const power = 10 ** Math.floor(Math.log10(raw))
  const factor = [1, 2, 5, 10].find((f) => f * power >= raw * 0.999) ?? 10
  return factor * power
}

/** One stretch of a ruler: from and to in pixels, its number, and whether it is inked. */
export interface RulerTick {
  from: number
  length: number
  inked: boolean
  label: string | null
}

/**
 * Ticks of a ruler that is `length` pixels long and has its zero at `zero`; every second one is inked, a
 * label stands at each fourth.
 */
export function rulerTicks(
  length: number,
  pxPerUnit: number,
  zero: number,
  unit: (value: number) => string,
): RulerTick[] {
  const step = niceStep(pxPerUnit, 24)
  const px = step * pxPerUnit
  const ticks: RulerTick[] = []
  const labelEvery = Math.max(1, Math.ceil(110 / px / 2) * 2)
  for (let n = Math.floor(-zero / px); zero + n * px < length; n++) {
    const from = Math.max(0, zero + n * px),
      to = Math.min(length, zero + (n + 1) * px)
    if (to <= from) continue
    const whole = zero + n * px >= -0.5
    ticks.push({
      from,
      length: to - from,
      inked: ((n % 2) + 2) % 2 === 0,
      label:
        whole && ((n % labelEvery) + labelEvery) % labelEvery === 0
          ? unit(Number((n * step).toPrecision(12)))
          : null,
    })
  }
  return ticks
}
