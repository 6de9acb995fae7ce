import { type Texture, RepeatWrapping, TextureLoader } from 'three'

/** A picture that the stage fetches by itself, beside those of the model. */
export interface StagePicture {
  texture: Texture
  isThere: boolean
}
const pictures = new Map<string, StagePicture>()
/** So many are kept; the one that was asked for longest ago goes first. */
const KEPT = 24
const listeners = new Set<() => void>()

/** Says what is to be done when a picture that was asked for has come; gives what ends it. */
export function onPicture(act: () => void): () => void {
  listeners.add(act)
  return () => void listeners.delete(act)
}

/** The picture at an address: of colours, or of data in linear light. */
export function pictureAt(address: string, isColour = false): StagePicture {
  const key = `${isColour ? 'colour' : 'data'} ${address}`
  const known = pictures.get(key)
  if (known) return known
  const made: StagePicture = {
    texture: new TextureLoader().load(address, () => {
      made.isThere = true
      for (const act of listeners) act()
    }),
    isThere: false,
  }
  // As glTF's pictures lie
  made.texture.flipY = false
  made.texture.wrapS = made.texture.wrapT = RepeatWrapping
  if (isColour) made.texture.colorSpace = 'srgb'
  pictures.set(key, made)
  const oldest = [...pictures.keys()][0]!
  if (pictures.size > KEPT) {
    pictures.get(oldest)!.texture.dispose()
    pictures.delete(oldest)
  }
  return made
}
