// Numbers in the kernels' memory, by the place where their list begins.

export function u32At(list: usize, index: u32): u32 {
  return load<u32>(list + ((<usize>index) << 2))
}
export function putU32(list: usize, index: u32, value: u32): void {
  store<u32>(list + ((<usize>index) << 2), value)
}
/** One more of what is counted at a place in a list. */
export function countAt(list: usize, index: u32): void {
  putU32(list, index, u32At(list, index) + 1)
}
export function u8At(list: usize, index: u32): u32 {
  return load<u8>(list + index)
}
export function putU8(list: usize, index: u32, value: u32): void {
  store<u8>(list + index, <u8>value)
}
/** A coordinate of a point: x, y and z stand at 0, 4 and 8. */
export function pointAt(points: usize, index: u32): usize {
  return points + <usize>index * 12
}
/** A triangle of three numbers, at 0, 4 and 8. */
export function triangleAt(corners: usize, index: u32): usize {
  return corners + <usize>index * 12
}

/** Mixes three integers to one of 32 bits. */
export function hashBits(a: i32, b: i32, c: i32): u32 {
  let h: u32 = (<u32>a * 0x9e3779b1) ^ (<u32>b * 0x85ebca6b) ^ (<u32>c * 0xc2b2ae35)
  h = (h ^ (h >> 15)) * 0x2c1b3c6d
  return h ^ (h >> 13)
}
