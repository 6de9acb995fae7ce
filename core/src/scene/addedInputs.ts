/** Inputs of a second layer’s own textures in the notes of a slot, by the option that names them. */
export const layerInputs = {
  texture: 'layer',
  normalTexture: 'layerNormal',
  roughnessTexture: 'layerRoughness',
} as const

/** Inputs of a detail map in the notes of a slot, by the option that names them. */
export const detailInputs = { texture: 'detail', normalTexture: 'detailNormal' } as const
