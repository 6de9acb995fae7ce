import { nameWords } from '../rulebook/nameWords'
import { baseName } from '../scene/meshParts'
import type { FoldedGroup } from './foldCopies'

/** A number that a program puts behind the name of a copy. */
const COPY_NUMBER = /\.\d{3,}$/
const ANY_NUMBER = /[_\-. ]?\d+$/

/**
 * Names of the assets that groups become: that of the node, without the marks of levels and, where there are
 * copies, without its number. One word alone says too little among all assets of a project: the scene's name
 * goes before it. Doubled names are numbered.
 */
export function partNames(groups: readonly FoldedGroup[], scene: string): string[] {
  const taken = new Set<string>()
  return groups.map((group, i) => {
    const own = plainName(group)
    const wanted = own === '' ? `${scene}_${i + 1}` : nameWords(own).length < 2 ? `${scene}_${own}` : own
    let name = wanted
    for (let n = 2; taken.has(name.toLowerCase()); n++) name = `${wanted}_${n}`
    taken.add(name.toLowerCase())
    return name
  })
}

function plainName({ label, copies }: FoldedGroup): string {
  const name = baseName(label.name.replace(COPY_NUMBER, '')).replace(COPY_NUMBER, '')
  const single = copies.length > 0 ? name.replace(ANY_NUMBER, '') : name
  return fileSafe(single || name)
}

/** What no path of a delivery takes becomes an underscore. */
const fileSafe = (name: string): string =>
  name
    .replace(/[/\\:*?"<>|\u0000-\u001f]+/g, '_')
    .replace(/^[\s.]+|[\s.]+$/g, '')
    .slice(0, 120)
