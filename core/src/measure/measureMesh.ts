import { faultAt, type Fault, type MeshFacts } from '@stern-gate/contract'
import type { GltfReference } from '../read/gltfReferences'
import type { GltfContainer } from '../read/gltfContainer'
import type { LoadDraco } from '../read/gltfIo'
import { readMesh, type MeshSource } from '../read/readMesh'
import { meshOverview } from './meshOverview'
import { measureMeshFile } from './measureMeshFile'
import { measureNodes, type MeasureSwitches } from './measureNodes'
import { collectEvidence } from './evidence'
import { measureIslands } from './measureIslands'
import { measureSlots } from './measureSlots'
import { measureVariants } from './measureVariants'

/**
 * What measuring a mesh file gives: facts, one blob with the large evidence, and what was read on the way.
 */
export interface MeasuredMesh {
  facts: MeshFacts
  evidence: Uint8Array
  /**
   * Null when the geometry could not be read; facts.notMeasured says why. Its accessors look into the file's
   * bytes: not to be written to.
   */
  source: MeshSource | null
}

export interface MeshPorts {
  /** Bytes of an external buffer, or null when it did not come. */
  resource: (asked: string) => Uint8Array | null
  hash: (bytes: Uint8Array) => string
  draco?: LoadDraco
}

/** Measures an opened glTF or GLB. What cannot be measured stands in facts.notMeasured, with the fault. */
export async function measureMesh(
  container: GltfContainer,
  references: GltfReference[],
  sizeBytes: number,
  ports: MeshPorts,
  switches: MeasureSwitches = {},
): Promise<MeasuredMesh> {
  const read = await readMesh(container, references, ports.resource, ports.draco, 'shared')
  const evidence = collectEvidence()
  const notMeasured: Fault[] = read.ok ? [] : [faultAt(read.fault, { measure: 'geometry' })]
  const source = read.ok ? read.value : null
  const measured = source ? await measureNodes(source.document, evidence.add, switches) : null
  const slots = source ? measureSlots(source.document) : null
  const facts: MeshFacts = {
    kind: 'mesh',
    file: measureMeshFile(container, references, source, sizeBytes, ports.hash),
    ...(measured ?? { nodes: null, shape: null, fit: null, decals: [], chain: null, quads: null }),
    overview: measured && meshOverview(measured.nodes),
    slots,
    islands: source && slots ? measureIslands(source.document, slots) : [],
    variants: source ? measureVariants(source.document) : [],
    evidence: evidence.entries,
    notMeasured,
  }
  return { facts, evidence: evidence.blob(), source }
}
