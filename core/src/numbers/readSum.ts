/** What a person types into a field of numbers: its value, or null where it is no sum. */
export type ReadSum = number | null

/** What a unit is worth in the unit of the field; lengths in metres, angles in degrees, shares as a share of 1. */
const units: Readonly<Record<string, number>> = {
  mm: 0.001,
  cm: 0.01,
  m: 1,
  km: 1000,
  '%': 0.01,
  '°': 1,
  deg: 1,
  rad: 180 / Math.PI,
}

/**
 * Reads a sum such as `2*0.3`, `1/3`, `12 mm + 4 cm` or `(1 + 2) * 50 %`: + − * / ( ), a comma or a point for
 * decimals, and a unit behind a number. Null where anything else stands in it, or the result is not finite.
 */
export function readSum(text: string): ReadSum {
  const tokens = tokensOf(text)
  if (!tokens || tokens.length === 0) return null
  const reading = { tokens, at: 0 }
  const value = sum(reading)
  return value !== null && reading.at === tokens.length && Number.isFinite(value) ? value : null
}

interface Reading {
  tokens: readonly (number | string)[]
  at: number
}

const TOKEN = /\s*(?:(\d+(?:[.,]\d*)?(?:e[-+]?\d+)?|[.,]\d+)\s*(mm|cm|km|m|%|°|deg|rad)?|([-+*/()−×]))/giy

function tokensOf(text: string): (number | string)[] | null {
  const found: (number | string)[] = []
  const trimmed = text.trim()
  TOKEN.lastIndex = 0
  while (TOKEN.lastIndex < trimmed.length) {
    const match = TOKEN.exec(trimmed)
    if (!match) return null
    const [, figures, unit, sign] = match
    if (sign) found.push(sign === '−' ? '-' : sign === '×' ? '*' : sign)
    else found.push(Number(figures!.replace(',', '.')) * (unit ? units[unit.toLowerCase()]! : 1))
  }
  return found
}

function sum(reading: Reading): ReadSum {
  let value = product(reading)
  for (
    let sign = reading.tokens[reading.at];
    sign === '+' || sign === '-';
    sign = reading.tokens[reading.at]
  ) {
    reading.at++
    const next = product(reading)
    if (value === null || next === null) return null
    value = sign === '+' ? value + next : value - next
  }
  return value
}

function product(reading: Reading): ReadSum {
  let value = factor(reading)
  for (
    let sign = reading.tokens[reading.at];
    sign === '*' || sign === '/';
    sign = reading.tokens[reading.at]
  ) {
    reading.at++
    const next = factor(reading)
    if (value === null || next === null) return null
    value = sign === '*' ? value * next : value / next
  }
  return value
}

function factor(reading: Reading): ReadSum {
  const token = reading.tokens[reading.at++]
  if (typeof token === 'number') return token
  if (token === '-' || token === '+') {
    const value = factor(reading)
    return value === null || token === '+' ? value : -value
  }
  if (token !== '(') return null
  const value = sum(reading)
  return reading.tokens[reading.at++] === ')' ? value : null
}
