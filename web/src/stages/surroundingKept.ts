import type { DataTexture } from 'three'

/** A picture of one's own that is taken as light from all sides. */
export interface OwnSurrounding {
  name: string
  texture: DataTexture
}

/** The one that was brought last; kept for as long as the page is open. */
let kept: OwnSurrounding | null = null
export const ownSurrounding = (): OwnSurrounding | null => kept

/** Keeps a picture in place of the one before, which is freed. */
export function keepSurrounding(brought: OwnSurrounding): void {
  kept?.texture.dispose()
  kept = brought
}
