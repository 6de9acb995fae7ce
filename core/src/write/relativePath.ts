/** Path from the folder of one file to another, both inside the delivery. */
export function relativePath(from: string, to: string): string {
  const source = from.split('/').slice(0, -1),
    target = to.split('/')
  let shared = 0
  while (shared < source.length && shared < target.length - 1 && source[shared] === target[shared]) shared++
  return [...source.slice(shared).map(() => '..'), ...target.slice(shared)].join('/')
}
