import type { EvidenceEntry } from '@stern-gate/contract'

/** Takes in triangle lists and lays them out one after the other; empty lists leave nothing. */
export type AddEvidence = (name: string, triangles: Uint32Array) => void

/** Collects the heavy evidence of one file: entries for the facts, and the blob that they point into. */
export function collectEvidence(): { entries: EvidenceEntry[]; add: AddEvidence; blob: () => Uint8Array } {
  const entries: EvidenceEntry[] = []
  const lists: Uint32Array[] = []
  let offset = 0
  return {
    entries,
    add(name, triangles) {
      if (triangles.length === 0) return
      entries.push({ name, file: null, type: 'uint32', offset, length: triangles.length })
      lists.push(triangles)
      offset += triangles.byteLength
    },
    blob() {
      const out = new Uint32Array(offset / 4)
      let at = 0
      for (const list of lists) {
        out.set(list, at)
        at += list.length
      }
      return new Uint8Array(out.buffer)
    },
  }
}
