import type { PaintedSet, PaintOptions, Surface } from '../surface/paint'
import type { MeshPlan } from './buildMesh'

/** One demo asset: its folder (which gives the class), its painted surfaces by texture stem, its mesh. */
export interface AssetPlan {
  name: string
  folder: string
  surfaces: Record<string, { surface: Surface; size: number; options?: PaintOptions }>
  mesh: (painted: Record<string, PaintedSet>) => MeshPlan
  /** Textures go into the mesh file. */
  embedded?: boolean
  /** Written as .gltf with a .bin beside it. */
  split?: boolean
  /** Roles that are not written, by texture stem. */
  leaveOut?: Record<string, readonly string[]>
  /** Further textures, by file name without extension. */
  more?: (painted: Record<string, PaintedSet>) => Record<string, Uint8Array>
  /** Which of the three deliveries it came in. */
  delivery: 1 | 2 | 3
}
