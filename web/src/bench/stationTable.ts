import type { AssetState, Station } from '@stern-gate/contract'
import { formatCount, formatLength, formatNumber, formatShare } from '@stern-gate/core/numbers'
import { wordsOfInput } from '@stern-gate/core/surfaces'
import { slotColour } from '../stages/slotColours'
import type { TableColumn, TableRow } from '../stages/StageTable.vue'
import { bytesText } from '../words/formats'

export interface StationTable {
  label: string
  columns: TableColumn[]
  rows: TableRow[]
}

const figure = (key: string, title: string): TableColumn => ({ key, title, figure: true })

/**
 * Figures that lie under the stage at stations that speak of several things side by side; null at the others.
 */
export function stationTable(station: Station, state: AssetState): StationTable | null {
  if (station === 'slots') return slotTable(state)
  if (station === 'lods') return levelTable(state)
  if (station === 'collision') return collisionTable(state)
  return station === 'compression' ? memoryTable(state) : null
}

function slotTable(state: AssetState): StationTable | null {
  const slots = state.mesh?.slots
  if (!slots) return null
  const finest = new Set(state.levels[0]?.nodes)
  const primitives = (state.mesh?.nodes ?? []).filter((n) => finest.has(n.path)).flatMap((n) => n.primitives)
  const names = slots.map((s) => s.name)
  return {
    label: 'Material slots',
    columns: [
      { key: 'slot', title: 'Slot' },
      figure('share', 'Of the surface'),
      figure('triangles', 'Triangles'),
      { key: 'alpha', title: 'Alpha' },
      figure('metal', 'Metallic'),
      figure('rough', 'Roughness'),
      { key: 'inputs', title: 'Inputs' },
    ],
    rows: slots.map((s) => ({
      id: s.name,
      chip: slotColour(names, s.name),
      cells: {
        slot: s.name,
        share: shareText(state, s.name),
        triangles: formatCount(
          primitives.filter((p) => p.slot === s.name).reduce((sum, p) => sum + p.triangles, 0),
        ),
        alpha: s.adds ? 'add' : s.alphaMode,
        metal: s.metallic.toFixed(2),
        rough: s.roughness.toFixed(2),
        inputs:
          [...new Set(s.textures.map((t) => wordsOfInput(t.input, t.field)))].join(', ') ||
          (s.surface === null ? 'none' : `values: ${s.surface}`),
      },
    })),
  }
}

function levelTable(state: AssetState): StationTable {
  const nodesOf = (paths: readonly string[]) =>
    (state.mesh?.nodes ?? []).filter((n) => paths.includes(n.path))
  return {
    label: 'Levels',
    columns: [
      { key: 'level', title: 'Level' },
      figure('triangles', 'Triangles'),
      figure('step', 'Of the one before'),
      figure('vertices', 'Vertices'),
      { key: 'slots', title: 'Slots' },
      figure('size', 'Longest side'),
    ],
    rows: state.levels.map((l, i) => {
      const nodes = nodesOf(l.nodes),
        before = state.levels[i - 1]
      const sides = [0, 1, 2].map(
        (a) =>
          Math.max(...nodes.map((n) => n.bounds?.max[a] ?? -Infinity)) -
          Math.min(...nodes.map((n) => n.bounds?.min[a] ?? Infinity)),
      )
      return {
        id: String(l.level),
        cells: {
          level: `LOD ${l.level}`,
          triangles: formatCount(l.triangles),
          step: before ? formatShare(l.triangles / Math.max(1, before.triangles)) : '–',
          vertices: formatCount(nodes.flatMap((n) => n.primitives).reduce((sum, p) => sum + p.vertices, 0)),
          slots: [...new Set(nodes.flatMap((n) => n.primitives.flatMap((p) => p.slot ?? [])))].join(', '),
          size: Number.isFinite(sides[0]!) ? formatLength(Math.max(...sides)) : '–',
        },
      }
    }),
  }
}

function collisionTable(state: AssetState): StationTable | null {
  const nodes = (state.mesh?.nodes ?? []).filter((n) => state.collision.includes(n.path))
  if (nodes.length === 0) return null
  return {
    label: 'Collision meshes',
    columns: [
      { key: 'name', title: 'Collision mesh' },
      figure('triangles', 'Triangles'),
      figure('corners', 'Points'),
      figure('shapes', 'Shapes'),
      { key: 'closed', title: 'Closed' },
      { key: 'convex', title: 'Convex' },
      figure('volume', 'Volume'),
    ],
    rows: nodes.map((n) => ({
      id: n.path,
      cells: {
        name: n.name || n.path,
        triangles: formatCount(n.primitives.reduce((sum, p) => sum + p.triangles, 0)),
        corners: formatCount(n.topology?.points ?? 0),
        shapes: formatCount(n.topology?.shells ?? 0),
        closed: n.topology
          ? n.topology.closedShells === n.topology.shells
            ? 'yes'
            : `${n.topology.openEdges} open edges`
          : '–',
        convex: n.hull ? (n.hull.convex ? 'yes' : 'no') : 'not measured',
        volume: n.topology ? `${formatNumber(n.topology.volume, 'x')} m³` : '–',
      },
    })),
  }
}

const memoryTable = (state: AssetState): StationTable => ({
  label: 'Texture memory by target',
  columns: [
    { key: 'target', title: 'Target' },
    figure('bytes', 'Texture memory'),
    figure('limit', 'Budget'),
    figure('share', 'Of the budget'),
  ],
  rows: state.memory.map((m) => ({
    id: m.target,
    over: m.bytes > m.limit,
    cells: {
      target: m.title,
      bytes: bytesText(m.bytes),
      limit: bytesText(m.limit),
      share: formatShare(m.bytes / m.limit),
    },
  })),
})

/** Share of the surface that wears a slot; one that only a variant wears is not unused. */
export function shareText(state: AssetState, slot: string): string {
  const share = state.slotShares[slot]
  if (share !== undefined) return formatShare(share)
  return isOfVariant(state, slot) ? 'in a variant' : 'unused'
}

/** Whether some variant of the file wears a slot. */
export const isOfVariant = ({ mesh }: AssetState, slot: string): boolean =>
  (mesh?.variants ?? []).some((v) => v.choices.some((c) => c.wears === slot))
