import { rulebookSchema, type AssetClass, type BlockFormatName, type Rulebook, type Target, type TextureRole } from '@stern-gate/contract'

const WORDS = '[a-z0-9]+(?:_[a-z0-9]+)*?'

const roleSynonyms: Record<TextureRole, { space: 'srgb' | 'linear'; synonyms: string[] }> = {
  basecolor: { space: 'srgb', synonyms: ['basecolour', 'albedo', 'diffuse', 'diff', 'color', 'colour', 'col', 'bc', 'base'] },
  normal: { space: 'linear', synonyms: ['normals', 'norm', 'nrm', 'nml', 'nor', 'normalmap'] },
  orm: { space: 'linear', synonyms: ['packed', 'arm', 'occlusionroughnessmetallic', 'metallicroughness', 'metalrough'] },
  occlusion: { space: 'linear', synonyms: ['ao', 'ambientocclusion', 'occ'] },
  roughness: { space: 'linear', synonyms: ['rough', 'rgh', 'gloss', 'glossiness', 'smoothness'] },
  metallic: { space: 'linear', synonyms: ['metal', 'metalness', 'mtl', 'met'] },
  emissive: { space: 'srgb', synonyms: ['emission', 'emis', 'emit', 'glow'] },
  opacity: { space: 'linear', synonyms: ['alpha', 'transparency', 'opac'] },
  height: { space: 'linear', synonyms: ['displacement', 'disp', 'bump', 'hgt'] },
  tint: { space: 'linear', synonyms: ['mask', 'tintmask', 'masks'] },
}

const surface: TextureRole[] = ['basecolor', 'normal']

const classes: Record<string, AssetClass> = {
  'hand prop': { title: 'Hand prop', folders: ['hand-props', 'handprops', 'hand_props'], words: [], longestSide: { min: 0.03, max: 0.6 }, triangles: { caution: 4000, stop: 8000 }, slots: 1, texelsPerMetre: 1024, pivots: ['base-centre', 'origin-inside'], inputs: surface, lodsAbove: null, collision: false, lightmap: false, repeat: false, mirroredUvs: 'note' },
  prop: { title: 'Prop', folders: ['props', 'prop'], words: [], longestSide: { min: 0.2, max: 3 }, triangles: { caution: 12000, stop: 24000 }, slots: 2, texelsPerMetre: 512, pivots: ['base-centre'], inputs: surface, lodsAbove: 3000, collision: true, lightmap: false, repeat: true, mirroredUvs: 'note' },
  vessel: { title: 'Vessel', folders: ['vessels', 'vessel', 'boats'], words: [], longestSide: { min: 2, max: 40 }, triangles: { caution: 60000, stop: 120000 }, slots: 6, texelsPerMetre: 256, pivots: ['base-centre'], inputs: surface, lodsAbove: 0, collision: true, lightmap: false, repeat: true, mirroredUvs: 'note' },
  structure: { title: 'Structure', folders: ['structures', 'structure', 'buildings'], words: [], longestSide: { min: 0.5, max: 60 }, triangles: { caution: 40000, stop: 80000 }, slots: 4, texelsPerMetre: 256, pivots: ['base-centre', 'corner'], inputs: surface, lodsAbove: 5000, collision: true, lightmap: true, repeat: true, mirroredUvs: 'note' },
  foliage: { title: 'Foliage', folders: ['foliage', 'plants'], words: [], longestSide: { min: 0.1, max: 30 }, triangles: { caution: 15000, stop: 30000 }, slots: 2, texelsPerMetre: 256, pivots: ['base-centre'], inputs: ['basecolor'], lodsAbove: 0, collision: false, lightmap: false, repeat: false, mirroredUvs: 'allowed' },
  decal: { title: 'Decal', folders: ['decals', 'decal'], words: [], longestSide: { min: 0.05, max: 5 }, triangles: { caution: 200, stop: 1000 }, slots: 1, texelsPerMetre: 512, pivots: ['centre'], inputs: ['basecolor'], lodsAbove: null, collision: false, lightmap: false, repeat: false, mirroredUvs: 'stop' },
  figure: { title: 'Figure', folders: ['figures', 'figure', 'people'], words: [], longestSide: { min: 0.5, max: 3 }, triangles: { caution: 40000, stop: 80000 }, slots: 4, texelsPerMetre: 768, pivots: ['base-centre'], inputs: surface, lodsAbove: 0, collision: false, lightmap: false, repeat: false, mirroredUvs: 'note' },
}

/** Block formats by role: colour, normal, packed, single channel. */
const formatsOf = (colour: BlockFormatName, normal: BlockFormatName, packed: BlockFormatName, single: BlockFormatName): Target['formats'] => ({
  basecolor: colour, normal, orm: packed, occlusion: single, roughness: single, metallic: single, emissive: colour, opacity: single, height: single, tint: packed,
})

const targets: Record<string, Target> = {
  desk: { title: 'Desk', screen: { width: 2560, height: 1440, fovDegrees: 55 }, largestSide: 4096, size: 'multiple-of-four', textureMemoryMiB: { asset: 64, project: 2048 }, uvChannels: 4, inputsPerSlot: 8, tileSets: true, formats: formatsOf('BC7', 'BC5', 'BC7', 'BC4') },
  handheld: { title: 'Handheld', screen: { width: 1280, height: 800, fovDegrees: 50 }, largestSide: 2048, size: 'power-of-two', textureMemoryMiB: { asset: 16, project: 512 }, uvChannels: 2, inputsPerSlot: 5, tileSets: false, formats: formatsOf('ASTC 6×6', 'ASTC 5×5', 'ASTC 5×5', 'ASTC 8×8') },
  browser: { title: 'Browser', screen: { width: 1920, height: 1080, fovDegrees: 50 }, largestSide: 2048, size: 'power-of-two', textureMemoryMiB: { asset: 12, project: 256 }, uvChannels: 2, inputsPerSlot: 5, tileSets: false, formats: formatsOf('ETC1S', 'UASTC', 'ETC1S', 'ETC1S') },
}

/** The rulebook that a project starts from; all of it can be edited. */
export const defaultRulebook: Rulebook = rulebookSchema.parse({
  format: 'stern-gate-rulebook/1',
  name: 'default',
  patterns: {
    mesh: `{family}_{subject:${WORDS}}[_{variant:[a-z]}]`,
    lod: `{family}_{subject:${WORDS}}[_{variant:[a-z]}]_lod{n:#}`,
    collision: `{family}_{subject:${WORDS}}[_{variant:[a-z]}]_hull[{n:##}]`,
    texture: `{family}_{subject:${WORDS}}[_{variant:[a-z]}]_{role:${Object.keys(roleSynonyms).join('|')}}[.{tile:[0-9]{4}}]`,
    slot: '{subject:[a-z0-9_]+}-{surface:[a-z0-9_]+}',
    clip: '{subject:[a-z0-9_]+}@{action:[a-z0-9_]+}',
  },
  roles: roleSynonyms,
  defaultClass: 'prop',
  classes,
  defaultTarget: 'desk',
  targets,
  personHeight: 1.75,
  gridStep: null,
  green: 'up',
  rules: {},
} satisfies Rulebook)
