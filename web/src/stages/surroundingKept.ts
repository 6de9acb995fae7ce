import type { PictureAround } from './pictureAround'

/** A picture of one's own that is taken as light from all sides. */
export interface OwnSurrounding {
  name: string
  picture: PictureAround
}

/** The one that was brought last; kept for as long as the page is open. */
let kept: OwnSurrounding | null = null
export const ownSurrounding = (): OwnSurrounding | null => kept

/** Keeps a picture in place of the one before. */
export function keepSurrounding(brought: OwnSurrounding): void {
  kept = brought
}
