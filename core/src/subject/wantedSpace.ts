import { detailInputs, layerInputs } from '../scene/addedInputs'
import type { Subject, SubjectTexture } from './subject'

/** Inputs of extensions and of notes of ours that carry colour; all others of theirs carry data. */
const colourFields = new Set<string>([
  'baseColorTexture',
  'emissiveTexture',
  'specularColorTexture',
  'sheenColorTexture',
  'diffuseTexture',
  'specularGlossinessTexture',
  'diffuseTransmissionColorTexture',
  layerInputs.texture,
  detailInputs.texture,
])

/** Inputs that read alpha alone: alpha is a plain number in any picture, so that RGB may carry colour beside it. */
const alphaFields = new Set(['sheenRoughnessTexture', 'specularTexture', 'diffuseTransmissionTexture'])

/** Space that a texture's uses ask for. Inputs speak first, the name only where nothing uses the texture. */
export function wantedSpace(
  texture: SubjectTexture,
  subject: Subject,
): 'srgb' | 'linear' | 'both' | 'any' | 'unknown' {
  let colour = false,
    data = false,
    alpha = false
  for (const use of texture.uses) {
    if (alphaFields.has(use.field)) alpha = true
    else if (use.input === 'basecolor' || use.input === 'emissive' || colourFields.has(use.field))
      colour = true
    else data = true
  }
  if (colour && data) return 'both'
  if (colour) return 'srgb'
  if (data) return 'linear'
  if (alpha) return 'any'
  if (texture.uses.length > 0) return 'any'
  return texture.role ? subject.rulebook.roles[texture.role].space : 'unknown'
}
