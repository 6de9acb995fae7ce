/**
 * Normals for each corner of each triangle (x y z, nine numbers a triangle), smooth where faces meet at less
 * than `angleRad` and hard elsewhere. `corners` are point numbers, `positions` those of the points. Faces are
 * weighted by the angle of their corner (Thürmer and Wüthrich 1998). A triangle without an area takes what
 * its neighbours give, else straight up.
 */
export function smoothNormals(corners: Uint32Array, positions: Float32Array, angleRad: number): Float32Array {
  const triangles = Math.floor(corners.length / 3),
    points = positions.length / 3
  const faces = new Float32Array(triangles * 3),
    weights = new Float32Array(triangles * 3)
  for (let t = 0; t < triangles; t++) faceOf(corners, positions, t, faces, weights)
  // Corners by point
  const starts = new Uint32Array(points + 1)
  for (const p of corners) if (p < points) starts[p + 1]!++
  for (let p = 0; p < points; p++) starts[p + 1]! += starts[p]!
  const cursor = starts.slice(0, points),
    around = new Uint32Array(starts[points]!)
  for (let k = 0; k < triangles * 3; k++) if (corners[k]! < points) around[cursor[corners[k]!]!++] = k
  const least = Math.cos(angleRad) - 1e-6,
    out = new Float32Array(triangles * 9)
  for (let k = 0; k < triangles * 3; k++) {
    const point = corners[k]!,
      own = Math.floor(k / 3) * 3
    let x = 0,
      y = 0,
      z = 0
    const flat = faces[own]! === 0 && faces[own + 1]! === 0 && faces[own + 2]! === 0
    for (
      let i = point < points ? starts[point]! : 0, end = point < points ? starts[point + 1]! : 0;
      i < end;
      i++
    ) {
      const other = around[i]!,
        f = Math.floor(other / 3) * 3
      const dot = faces[own]! * faces[f]! + faces[own + 1]! * faces[f + 1]! + faces[own + 2]! * faces[f + 2]!
      if (!flat && dot < least) continue
      x += faces[f]! * weights[other]!
      y += faces[f + 1]! * weights[other]!
      z += faces[f + 2]! * weights[other]!
    }
    const length = Math.hypot(x, y, z)
    out.set(
      length > 1e-12
        ? [x / length, y / length, z / length]
        : flat
          ? [0, 1, 0]
          : [faces[own]!, faces[own + 1]!, faces[own + 2]!],
      k * 3,
    )
  }
  return out
}

function faceOf(
  corners: Uint32Array,
  positions: Float32Array,
  t: number,
  faces: Float32Array,
  weights: Float32Array,
): void {
  const p = [0, 1, 2].map((i) => {
    const k = corners[t * 3 + i]! * 3
    return [positions[k] ?? NaN, positions[k + 1] ?? NaN, positions[k + 2] ?? NaN] as const
  })
  const edge = (i: number, j: number) =>
    [p[j]![0] - p[i]![0], p[j]![1] - p[i]![1], p[j]![2] - p[i]![2]] as const
  const u = edge(0, 1),
    v = edge(0, 2)
  const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]] as const
  const length = Math.hypot(...n)
  if (!(length > 0) || !Number.isFinite(length)) return
  for (let i = 0; i < 3; i++) {
    faces[t * 3 + i] = n[i]! / length
    const a = edge(i, (i + 1) % 3),
      b = edge(i, (i + 2) % 3)
    const cos = (a[0] * b[0] + a[1] * b[1] + a[2] * b[2]) / (Math.hypot(...a) * Math.hypot(...b))
    weights[t * 3 + i] = Math.acos(Math.min(1, Math.max(-1, cos)))
  }
}
