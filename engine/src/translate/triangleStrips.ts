import { DOMParser } from 'linkedom'

/**
 * Writes the strips and fans of a COLLADA as triangles, which the library reads alone. The winding of every
 * second triangle of a strip is turned, as the specification has it (1.4.1, tristrips and trifans).
 */
export function withoutStrips(text: string): string {
  if (!/<tri(strips|fans)\b/i.test(text)) return text
  const document = new DOMParser().parseFromString(text, 'text/xml')
  for (const kind of ['tristrips', 'trifans'] as const)
    for (const element of [...document.querySelectorAll(kind)]) {
      const inputs = [...element.children].filter((c) => c.localName === 'input')
      const stride = 1 + Math.max(0, ...inputs.map((i) => Number(i.getAttribute('offset') ?? 0)))
      const corners = [...element.children]
        .filter((c) => c.localName === 'p')
        .flatMap((p) => trianglesOf(kind, (p.textContent ?? '').trim().split(/\s+/).map(Number), stride))
      const triangles = document.createElement('triangles')
      const material = element.getAttribute('material')
      if (material !== null) triangles.setAttribute('material', material)
      triangles.setAttribute('count', String(corners.length / stride / 3))
      for (const input of inputs) triangles.appendChild(input.cloneNode(true))
      const p = document.createElement('p')
      p.textContent = corners.join(' ')
      triangles.appendChild(p)
      element.replaceWith(triangles)
    }
  return document.toString()
}

/** Indices of triangles, `stride` numbers a corner, of one strip or fan. */
export function trianglesOf(
  kind: 'tristrips' | 'trifans',
  indices: readonly number[],
  stride: number,
): number[] {
  const count = Math.floor(indices.length / stride),
    corner = (k: number) => indices.slice(k * stride, (k + 1) * stride)
  const out: number[] = []
  for (let k = 0; k + 2 < count; k++) {
    const [a, b, c] =
      kind === 'trifans' ? [0, k + 1, k + 2] : k % 2 === 0 ? [k, k + 1, k + 2] : [k + 1, k, k + 2]
    out.push(...corner(a), ...corner(b), ...corner(c))
  }
  return out
}
