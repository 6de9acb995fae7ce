import { srgbToLinear } from '../../image/transferCurves'
import type { TranslatedSlot } from './containerBuilder'
import { TextCursor } from './textCursor'

/** What one `newmtl` block says; numbers as written. */
interface MtlBlock {
  name: string
  numbers: Map<string, number[]>
  maps: Map<string, string>
}

const numberKeys = new Set([
  'ka',
  'kd',
  'ks',
  'ke',
  'ns',
  'd',
  'tr',
  'pr',
  'pm',
  'illum',
  'ni',
  'tf',
  'pc',
  'pcr',
  'ps',
  'aniso',
  'anisor',
])
/** Words of a texture statement that begin an option, with how many values may follow. */
const optionValues: Record<string, number> = {
  '-blendu': 1,
  '-blendv': 1,
  '-boost': 1,
  '-mm': 2,
  '-o': 3,
  '-s': 3,
  '-t': 3,
  '-texres': 1,
  '-clamp': 1,
  '-bm': 1,
  '-imfchan': 1,
  '-type': 1,
  '-cc': 1,
}

export interface MaterialLibrary {
  slots: TranslatedSlot[]
  lost: string[]
}

/**
 * Reads a material library (MTL). Words it does not know are passed over; what a slot cannot carry is told.
 */
export function readMtl(bytes: Uint8Array): MaterialLibrary {
  const lost = new Set<string>()
  return { slots: readBlocks(bytes).map((block) => slotOf(block, lost)), lost: [...lost] }
}

function readBlocks(bytes: Uint8Array): MtlBlock[] {
  const cursor = new TextCursor(bytes),
    blocks: MtlBlock[] = []
  for (let block: MtlBlock | null = null; !cursor.done; cursor.nextLine()) {
    const word = cursor.word().toLowerCase()
    if (word === 'newmtl') blocks.push((block = { name: cursor.rest(), numbers: new Map(), maps: new Map() }))
    else if (block && numberKeys.has(word)) {
      const values: number[] = []
      while (values.length < 3 && !cursor.atLineEnd()) values.push(cursor.number())
      if (values.length > 0 && values.every(Number.isFinite)) block.numbers.set(word, values)
    } else if (block && /^(map_|bump$|norm$|disp$|refl$|decal$)/.test(word))
      block.maps.set(word, pathBehindOptions(cursor.rest()))
  }
  return blocks
}

/** Options come before the file name, and the name itself may hold blanks. */
function pathBehindOptions(text: string): string {
  let rest = text
  for (
    let option = /^(-\w+)\s+/.exec(rest);
    option && optionValues[option[1]!.toLowerCase()];
    option = /^(-\w+)\s+/.exec(rest)
  ) {
    rest = rest.slice(option[0].length)
    for (let taken = 0; taken < optionValues[option[1]!.toLowerCase()]!; taken++) {
      const value = /^(\S+)\s+/.exec(rest)
      if (!value || (taken > 0 && !Number.isFinite(Number(value[1])))) break
      rest = rest.slice(value[0].length)
    }
  }
  return rest
}

/**
 * Roughness for a Blinn-Phong exponent: α² = 2 / (n + 2), α = roughness² (Walter et al., Microfacet Models
 * for Refraction, 2007).
 */
const roughnessOfExponent = (exponent: number): number => (2 / (Math.max(0, exponent) + 2)) ** 0.25

const linear = (value: number): number => srgbToLinear(Math.min(1, Math.max(0, value)))

function slotOf({ name, numbers, maps }: MtlBlock, lost: Set<string>): TranslatedSlot {
  const one = (key: string): number | undefined => numbers.get(key)?.[0]
  const colour = (key: string): [number, number, number] | undefined => {
    const c = numbers.get(key)
    return c ? [linear(c[0]!), linear(c[1] ?? c[0]!), linear(c[2] ?? c[0]!)] : undefined
  }
  const alpha = one('d') ?? (one('tr') === undefined ? 1 : 1 - one('tr')!)
  const map = (...keys: string[]): string | undefined => keys.map((k) => maps.get(k)).find((path) => path)
  const basecolor = map('map_kd'),
    rough = map('map_pr'),
    metal = map('map_pm'),
    cut = map('map_d')
  const both = map('map_rma', 'map_orm') ?? (rough !== undefined && rough === metal ? rough : undefined)
  if (!both && metal) lost.add('map_Pm: a metalness map of its own')
  if (cut && cut !== basecolor) lost.add('map_d: an opacity map of its own')
  for (const key of ['map_ka', 'map_ks', 'map_ns', 'disp', 'decal', 'refl'])
    if (maps.get(key)) lost.add(`${key}: a map that has no place in a slot`)
  const [r, g, b] = colour('kd') ?? [1, 1, 1]
  return {
    name,
    baseColour: basecolor ? [1, 1, 1, alpha] : [r, g, b, alpha],
    metallic: one('pm') ?? (both || metal ? 1 : 0),
    roughness:
      rough || both ? 1 : (one('pr') ?? (one('ns') === undefined ? 1 : roughnessOfExponent(one('ns')!))),
    emissive: colour('ke') ?? (maps.get('map_ke') ? [1, 1, 1] : [0, 0, 0]),
    alphaMode: alpha < 1 || (cut !== undefined && cut === basecolor) ? 'BLEND' : 'OPAQUE',
    doubleSided: false,
    textures: {
      basecolor,
      normal: map('norm', 'map_bump', 'bump'),
      metallicRoughness: both ?? rough,
      emissive: map('map_ke'),
    },
  }
}
