import { kindByExtension, readsBeside } from '@stern-gate/core'
import { findAmong, sha256, type FindBeside } from '@stern-gate/engine'
import type { JobServices } from '../services/services'
import { listFilesBeside } from '../store/deliveries'

/** What measuring a mesh of a delivery needs of the files that came with it. */
export interface FilesOfDelivery {
  beside: FindBeside
  /** Hash over names and contents of the files that the facts of such a mesh may depend on. */
  hashAround: (path: string) => string
}

export interface DeliveryFiles {
  get: (delivery: string) => Promise<FilesOfDelivery>
}

/** Deliveries that are measured at the same time; more are read again. */
const KEPT = 4

/**
 * Lists the files of a delivery once for all its meshes: a closed delivery takes no more, and a list that was
 * read and indexed for each of 5,000 meshes grew with their square.
 */
export function createDeliveryFiles({
  connection: { db },
  store,
}: Pick<JobServices, 'connection' | 'store'>): DeliveryFiles {
  const kept = new Map<string, Promise<FilesOfDelivery>>()
  const read = async (delivery: string): Promise<FilesOfDelivery> => {
    const files = await listFilesBeside(db, delivery)
    const hashes = new Map<string, string>()
    const hashOf = (path: string): string =>
      sha256(
        files
          .filter((f) => readsBeside(path, f.path))
          .map((f) => `${f.path}\n${f.sha256}`)
          .join('\n'),
      )
    return {
      beside: findAmong(files.map((f) => ({ path: f.path, file: store.localFile(f.sha256) }))),
      hashAround(path) {
        const kind = kindByExtension(path)
        const known = hashes.get(kind) ?? hashOf(path)
        hashes.set(kind, known)
        return known
      },
    }
  }
  return {
    get(delivery) {
      const known = kept.get(delivery) ?? read(delivery)
      kept.delete(delivery)
      kept.set(delivery, known)
      if (kept.size > KEPT) kept.delete(kept.keys().next().value!)
      known.catch(() => kept.delete(delivery))
      return known
    },
  }
}
