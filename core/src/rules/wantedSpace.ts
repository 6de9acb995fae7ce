import type { Subject, SubjectTexture } from './subject'

/** Inputs of extensions that carry colour; all others of theirs carry data. */
const colourFields = new Set([
  'baseColorTexture',
  'emissiveTexture',
  'specularColorTexture',
  'sheenColorTexture',
  'diffuseTexture',
  'specularGlossinessTexture',
  'diffuseTransmissionColorTexture',
])

/** Space that a texture's uses ask for. Inputs speak first, the name only where nothing uses the texture. */
export function wantedSpace(
  texture: SubjectTexture,
  subject: Subject,
): 'srgb' | 'linear' | 'both' | 'unknown' {
  let colour = false,
    data = false
  for (const use of texture.uses) {
    if (use.input === 'basecolor' || use.input === 'emissive' || colourFields.has(use.field)) colour = true
    else data = true
  }
  if (colour && data) return 'both'
  if (colour) return 'srgb'
  if (data) return 'linear'
  return texture.role ? subject.rulebook.roles[texture.role].space : 'unknown'
}
