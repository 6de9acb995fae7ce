import { cloudNoise, step, tileNoise } from './noise'
import { mix, type Rgb, type Surface } from './paint'

/** Painted iron: worn paint over rust, with hammered relief. */
export function paintedIron(seed: number, paintColour: Rgb): Surface {
  const wear = cloudNoise(seed, 5, 5),
    dents = cloudNoise(seed + 7, 14, 3),
    grain = tileNoise(seed + 13, 128)
  return (u, v) => {
    const worn = step(0.28, 0.42, wear(u, v) + 0.12 * grain(u, v))
    const rust = mix([92, 52, 34], [148, 82, 44], 0.5 + 0.5 * dents(u, v))
    const base = mix(
      paintColour,
      [paintColour[0] * 0.72, paintColour[1] * 0.74, paintColour[2] * 0.78],
      0.5 + 0.5 * dents(u, v),
    )
    return {
      height: 0.0022 * dents(u, v) - worn * 0.0014 + 0.0002 * grain(u, v),
      colour: mix(base, rust, worn),
      roughness: 0.42 + 0.4 * worn + 0.06 * grain(u, v),
      metallic: 0,
      occlusion: 1 - 0.18 * worn - 0.08 * step(0, 1, -dents(u, v)),
    }
  }
}

/** Bare metal with scratches that run around. */
export function bareMetal(seed: number, colour: Rgb): Surface {
  const cloud = cloudNoise(seed, 6, 4),
    dents = cloudNoise(seed + 3, 12, 3),
    scratch = tileNoise(seed + 5, 96)
  return (u, v) => {
    const tarnish = step(0.1, 0.6, cloud(u, v))
    const line = scratch(u * 0.08, v)
    return {
      height: 0.0045 * dents(u, v) + 0.0003 * line,
      colour: mix(colour, [colour[0] * 0.55, colour[1] * 0.52, colour[2] * 0.5], tarnish),
      roughness: 0.3 + 0.32 * tarnish + 0.05 * line,
      metallic: 1,
      occlusion: 1 - 0.15 * tarnish,
    }
  }
}

/** Planks that lie one over the other along U, `count` to the sheet, painted and chipped. */
export function planks(seed: number, count: number, colour: Rgb, under: Rgb): Surface {
  const chips = cloudNoise(seed, 6, 4),
    fibre = cloudNoise(seed + 9, 6, 4)
  return (u, v) => {
    const row = v * count,
      within = row - Math.floor(row)
    const seam = step(0.0, 0.05, within) * step(0.0, 0.04, 1 - within)
    const lines = fibre(u, v * 6 - Math.floor(v * 6))
    const chipped = step(0.3, 0.44, chips(u, v) + 0.2 * (1 - seam))
    const shade = 0.86 + 0.14 * Math.sin(Math.floor(row) * 12.9898 + seed) + 0.06 * lines
    const wood = mix(under, [under[0] * 0.7, under[1] * 0.66, under[2] * 0.62], 0.5 + 0.5 * lines)
    const paintCoat: Rgb = [colour[0] * shade, colour[1] * shade, colour[2] * shade]
    return {
      height:
        0.004 * within * seam + 0.003 * (seam - 1) + 0.0011 * lines - 0.001 * chipped + 0.0012 * chips(u, v),
      colour: mix(mix([38, 30, 24], chipped > 0 ? mix(paintCoat, wood, chipped) : paintCoat, seam), wood, 0),
      roughness: 0.45 + 0.3 * chipped,
      metallic: 0,
      occlusion: 0.7 + 0.3 * seam,
    }
  }
}

/** Cast stone with pebbles and stains. */
export function castStone(seed: number): Surface {
  const cloud = cloudNoise(seed, 5, 5),
    pebbles = cloudNoise(seed + 4, 24, 2),
    stain = cloudNoise(seed + 8, 3, 3)
  return (u, v) => {
    const p = step(-0.1, 0.5, pebbles(u, v))
    return {
      height: 0.0026 * p + 0.002 * cloud(u, v),
      colour: mix(mix([142, 138, 128], [176, 170, 156], p), [92, 96, 84], 0.6 * step(0.1, 0.7, stain(u, v))),
      roughness: 0.82 + 0.1 * cloud(u, v),
      metallic: 0,
      occlusion: 0.8 + 0.2 * p,
    }
  }
}

/** Woven cloth in two colours, frayed at the outer end of U; the tint takes the lighter field. */
export function signalCloth(seed: number): Surface {
  const fray = cloudNoise(seed, 9, 3),
    folds = cloudNoise(seed + 5, 4, 3)
  return (u, v) => {
    const weave = Math.sin(u * Math.PI * 96) * Math.sin(v * Math.PI * 96)
    const field = step(0.4, 0.415, Math.hypot((u - 0.36) * 1.4, v - 0.5) < 0.2 ? 1 : 0)
    const edge = 0.93 + 0.05 * fray(0.5, v * 3) - 0.02 * Math.abs(Math.sin(v * 40))
    const hole = step(0.6, 0.62, fray(u * 1.7, v * 1.3) * step(0.5, 0.9, u))
    return {
      height: 0.0008 * weave + 0.006 * folds(u, v),
      colour: mix(mix([176, 42, 38], [236, 226, 200], field), [60, 30, 30], 0.18 + 0.18 * folds(u, v)),
      roughness: 0.86,
      metallic: 0,
      occlusion: 0.9 + 0.1 * weave,
      alpha: u < edge && hole < 0.5 ? 1 : 0,
      tint: field,
    }
  }
}

/**
 * Canvas with a weave that shows which way it runs: ribs along V, finer threads across; stripes of two colours across
 * U, `stripes` of each to the sheet.
 */
export function wovenCanvas(seed: number, light: Rgb, dark: Rgb, stripes: number): Surface {
  const stain = cloudNoise(seed, 4, 4),
    slub = cloudNoise(seed + 3, 30, 2)
  return (u, v) => {
    const rib = 0.5 + 0.5 * Math.cos(u * Math.PI * 2 * 64 + 0.8 * slub(u, v)),
      thread = 0.5 + 0.5 * Math.cos(v * Math.PI * 2 * 160)
    const within = u * stripes - Math.floor(u * stripes)
    const stripe = step(0.0, 0.015, within) * step(0.0, 0.015, 0.5 - within)
    const worn = step(0.15, 0.6, stain(u, v))
    const cloth = mix(light, dark, Math.max(0, Math.min(1, stripe)))
    return {
      height: 0.0011 * rib + 0.0003 * thread,
      colour: mix(
        mix(cloth, [cloth[0] * 0.74, cloth[1] * 0.72, cloth[2] * 0.66], 1 - rib),
        [150, 138, 116],
        0.22 * worn,
      ),
      roughness: 0.84 + 0.08 * slub(u, v),
      metallic: 0,
      occlusion: 0.82 + 0.18 * rib,
    }
  }
}
