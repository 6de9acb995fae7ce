import type { Subject, SubjectTexture } from './subject'

/** Inputs of extensions that carry colour; all others of theirs carry data. */
const colourFields = new Set(['baseColorTexture', 'emissiveTexture', 'specularColorTexture', 'sheenColorTexture', 'diffuseTexture', 'specularGlossinessTexture', 'diffuseTransmissionColorTexture'])

/** Space that a texture's uses ask for. Inputs speak first, the name only where nothing uses the texture. */
export function wantedSpace(texture: SubjectTexture, subject: Subject): 'srgb' | 'linear' | 'both' | 'unknown' {
  const spaces = new Set(texture.uses.map((use) => (use.input === 'basecolor' || use.input === 'emissive' || colourFields.has(use.field) ? 'srgb' : 'linear')))
  if (spaces.size === 2) return 'both'
  const [only] = spaces
  if (only) return only
  return texture.role ? subject.rulebook.roles[texture.role].space : 'unknown'
}
