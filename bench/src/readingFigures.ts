import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js'
import { openMeshFile } from '@stern-gate/core'
import { inPairs } from './clock'
import type { Figure } from './figure'

/** Reading of formats that are no glTF. */
export async function readingFigures(tell: (line: string) => void): Promise<Figure[]> {
  tell('OBJ of 1 M triangles')
  const bytes = sphereObj(707, 707),
    text = new TextDecoder().decode(bytes)
  const [ours, theirs] = await inPairs(
    3,
    async () => {
      const opened = await openMeshFile(bytes, 'ball.obj', () => null)
      if (!opened.ok) throw new Error(opened.fault.why)
    },
    () => new OBJLoader().parse(text),
  )
  return [
    {
      what: `OBJ of 1 M triangles (${(bytes.length / 1e6).toFixed(0)} MB): read into joined vertices, against three’s OBJLoader parsing the same text into loose ones`,
      measured: `${ours.toFixed(0)} ms against ${theirs.toFixed(0)} ms`,
      ratio: ours / theirs,
      wanted: { most: 1 },
    },
  ]
}

/** A ball of quads with places, UVs and normals, each face with all three. */
function sphereObj(rings: number, segments: number): Uint8Array {
  const lines: string[] = ['o ball']
  for (let r = 0; r <= rings; r++)
    for (let s = 0; s <= segments; s++) {
      const a = (r / rings) * Math.PI,
        b = (s / segments) * 2 * Math.PI,
        p = [Math.sin(a) * Math.cos(b), Math.cos(a), Math.sin(a) * Math.sin(b)]
          .map((v) => v.toFixed(6))
          .join(' ')
      lines.push(`v ${p}`, `vt ${(s / segments).toFixed(6)} ${(r / rings).toFixed(6)}`, `vn ${p}`)
    }
  const corner = (r: number, s: number): string => {
    const i = r * (segments + 1) + s + 1
    return `${i}/${i}/${i}`
  }
  for (let r = 0; r < rings; r++)
    for (let s = 0; s < segments; s++)
      lines.push(`f ${corner(r, s)} ${corner(r + 1, s)} ${corner(r + 1, s + 1)} ${corner(r, s + 1)}`)
  return new TextEncoder().encode(`${lines.join('\n')}\n`)
}
