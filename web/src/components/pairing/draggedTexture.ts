/** Kind under which a texture that is dragged carries its id. */
export const DRAGGED_TEXTURE = 'application/x-texture'
