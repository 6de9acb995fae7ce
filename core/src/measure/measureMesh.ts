import { faultAt, type EvidenceEntry, type Fault, type MeshFacts } from '@stern-gate/contract'
import type { GltfReference } from '../read/gltfReferences'
import type { GltfContainer } from '../read/readGltfContainer'
import { readMesh, type MeshSource } from '../read/readMesh'
import { measureMeshFile } from './measureMeshFile'
import { measureNodes } from './measureNodes'
import { measureSlots } from './measureSlots'

/** What measuring a mesh file gives: facts, one blob with the large evidence, and what was read on the way. */
export interface MeasuredMesh {
  facts: MeshFacts
  evidence: Uint8Array
  /** Null when the geometry could not be read; facts.notMeasured says why. */
  source: MeshSource | null
}

export interface MeshPorts {
  /** Bytes of an external buffer, or null when it did not come. */
  resource: (asked: string) => Uint8Array | null
  hash: (bytes: Uint8Array) => string
}

/** Measures an opened glTF or GLB. What cannot be measured stands in facts.notMeasured, with the fault. */
export async function measureMesh(container: GltfContainer, references: GltfReference[], sizeBytes: number, ports: MeshPorts): Promise<MeasuredMesh> {
  const read = await readMesh(container, references, ports.resource)
  const evidence = collectEvidence()
  const notMeasured: Fault[] = read.ok ? [] : [faultAt(read.fault, { measure: 'geometry' })]
  const source = read.ok ? read.value : null
  const facts: MeshFacts = {
    kind: 'mesh',
    file: measureMeshFile(container, references, source, sizeBytes, ports.hash),
    nodes: source ? measureNodes(source.document, evidence.add) : null,
    slots: source ? measureSlots(source.document) : null,
    evidence: evidence.entries,
    notMeasured,
  }
  return { facts, evidence: evidence.blob(), source }
}

/** Takes in triangle lists and lays them out one after the other. */
export type AddEvidence = (name: string, triangles: Uint32Array) => void

function collectEvidence() {
  const entries: EvidenceEntry[] = []
  const lists: Uint32Array[] = []
  let offset = 0
  const add: AddEvidence = (name, triangles) => {
    if (triangles.length === 0) return
    entries.push({ name, type: 'uint32', offset, length: triangles.length })
    lists.push(triangles)
    offset += triangles.byteLength
  }
  const blob = (): Uint8Array => {
    const out = new Uint32Array(offset / 4)
    let at = 0
    for (const list of lists) {
      out.set(list, at)
      at += list.length
    }
    return new Uint8Array(out.buffer)
  }
  return { entries, add, blob }
}
