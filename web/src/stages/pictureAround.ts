/** A picture that goes all around: half floats, four a pixel; rows from the top, or from the foot. */
export interface PictureAround {
  data: Uint16Array
  width: number
  height: number
  fromFoot: boolean
}
