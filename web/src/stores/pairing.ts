import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import {
  ACCEPT_FROM,
  textureRoles,
  type Pairing,
  type PairingCell,
  type PairingDecision,
  type PairingSlot,
  type PairingTable,
  type Rulebook,
  type TextureRole,
} from '@stern-gate/contract'
import { acceptPairing, getPairing, getRulebook, undoMany } from '../api/client'
import { ownerOfId } from '@stern-gate/core/pairing'
import { pairInWorker } from '../api/pairInWorker'
import { useFaults } from './faults'
import { useProject } from './project'

/** A slot with its cells by input, as one line. */
export interface PairingLine {
  slot: PairingSlot
  cells: ReadonlyMap<TextureRole, PairingCell>
}

/** What can be taken back: a choice on the page, or what was handed to the server. */
type Act = { kind: 'chosen'; before: readonly PairingDecision[] } | { kind: 'accepted'; change: string }

/** So many of the next best have a number. */
const MOST_CHOICES = 2
/** So many meshes that were paired are asked for again. */
const MOST_DONE = 80
/** So many columns have room for names; where there are more, so many of them. */
const MOST_WIDE = 5,
  WIDE_OF_MANY = 3

const nothing: Pairing = { cells: [], tray: [] }

/** Which texture feeds which slot: what is proposed, what a person changes of it, and what is accepted. */
export const usePairing = defineStore('pairing', () => {
  const project = useProject()
  const faults = useFaults()
  const table = shallowRef<PairingTable | null>(null)
  const pairing = shallowRef<Pairing>(nothing)
  /** Cells that a person set on the page and has not accepted yet. */
  const chosen = shallowRef<readonly PairingDecision[]>([])
  const accept = ref(ACCEPT_FROM)
  const busy = ref(false)
  const past = shallowRef<readonly Act[]>([])
  /** Slots in the order of the lines; it stays while somebody works. */
  const order = shallowRef<readonly string[]>([])
  const focus = ref<{ slot: string; input: TextureRole } | null>(null)
  let rulebook: Rulebook | null = null,
    delivery: string | null = null,
    turn = 0,
    reads = 0,
    // Meshes that were paired here: they stay in the list, and their textures can be given to others
    done: string[] = []

  const textures = computed(() => new Map((table.value?.textures ?? []).map((t) => [t.id, t])))
  const isChosen = (cell: Pick<PairingCell, 'slot' | 'input'>): boolean =>
    chosen.value.some((c) => c.slot === cell.slot && c.input === cell.input)
  const lines = computed<PairingLine[]>(() => {
    const cells = new Map<string, Map<TextureRole, PairingCell>>()
    for (const cell of pairing.value.cells) {
      const own = cells.get(cell.slot) ?? new Map<TextureRole, PairingCell>()
      cells.set(cell.slot, own.set(cell.input, cell))
    }
    const slots = new Map((table.value?.slots ?? []).map((s) => [s.id, s]))
    return order.value.flatMap((id) => {
      const slot = slots.get(id)
      return slot ? [{ slot, cells: cells.get(id) ?? new Map<TextureRole, PairingCell>() }] : []
    })
  })
  /** Inputs that any slot has or wants, each a column. */
  const columns = computed(() => {
    const used = new Set(pairing.value.cells.map((c) => c.input))
    return textureRoles.filter((role) => used.has(role))
  })
  /** Columns that few lines have: they show pictures only, so that the others have room for names. */
  const narrow = computed(() => {
    if (columns.value.length <= MOST_WIDE) return new Set<TextureRole>()
    const uses = new Map<TextureRole, number>()
    for (const { input } of pairing.value.cells) uses.set(input, (uses.get(input) ?? 0) + 1)
    const wide = [...columns.value].sort((a, b) => uses.get(b)! - uses.get(a)!).slice(0, WIDE_OF_MANY)
    return new Set(columns.value.filter((role) => !wide.includes(role)))
  })
  const focused = computed(() => {
    const at = focus.value
    return at ? (lines.value.find((l) => l.slot.id === at.slot)?.cells.get(at.input) ?? null) : null
  })
  /** Cells that would be handed over: found ones, and those that a person chose. */
  const isReady = (cell: PairingCell): boolean =>
    (cell.texture !== null || cell.preset !== null) && (cell.state === 'found' || isChosen(cell))
  /** The next best for the cell that has the focus, by number; behind them it may be left open. */
  const choices = computed(() => (focused.value?.others ?? []).slice(0, MOST_CHOICES))
  const mayStayOpen = computed(() => focused.value !== null && isReady(focused.value))
  async function take(number: number): Promise<void> {
    const cell = focused.value,
      other = choices.value[number - 1]
    if (cell && other) await choose(cell, other.texture)
    else if (cell && mayStayOpen.value && number === choices.value.length + 1) await choose(cell, null)
  }
  const sure = computed(() =>
    pairing.value.cells.filter(
      (c) =>
        isReady(c) &&
        (isChosen(c) || (c.preset === null && c.confidence >= accept.value && c.rivals.length === 0)),
    ),
  )
  /** Surfaces of values: their textures may still be on their way, so they are an act of their own. */
  const surfaces = computed(() =>
    pairing.value.cells.filter(
      (c) => c.preset !== null && isReady(c) && !isChosen(c) && c.confidence >= accept.value,
    ),
  )
  const counts = computed(() => ({
    fed: pairing.value.cells.filter((c) => c.state === 'wired' && !isChosen(c)).length,
    open: pairing.value.cells.filter((c) => c.state === 'open' && !isChosen(c)).length,
    conflicts: pairing.value.cells.filter((c) => c.state === 'found' && c.rivals.length > 0).length,
  }))

  /** False: something newer is being paired. */
  async function pairAnew(): Promise<boolean> {
    const mine = ++turn,
      of = table.value
    if (!of || !rulebook) return false
    const { slots, textures: all, decided } = of
    const kept = decided.filter((d) => !isChosen(d))
    const found = await pairInWorker({ slots, textures: all }, rulebook, [...kept, ...chosen.value])
    if (mine !== turn) return false
    pairing.value = found
    return true
  }
  async function read(): Promise<void> {
    const id = project.openId,
      mine = ++reads
    if (id === null) return
    const [answer, { rulebook: words }] = await Promise.all([
      getPairing(id, delivery, done.slice(-MOST_DONE)),
      getRulebook(id),
    ])
    // An older answer knows nothing of what was accepted since
    if (project.openId !== id || mine !== reads) return
    table.value = answer
    rulebook = words
    const slots = new Set(answer.slots.map((s) => s.id))
    chosen.value = chosen.value.filter((c) => slots.has(c.slot))
    if (!(await pairAnew())) return
    const known = new Set(order.value)
    order.value = [
      ...order.value.filter((s) => slots.has(s)),
      ...sortedSlots(answer.slots, pairing.value, accept.value).filter((s) => !known.has(s)),
    ]
    if (focus.value && !slots.has(focus.value.slot)) focus.value = null
  }
  /** Opens what waits in the project, or what came by one delivery. */
  async function load(of: string | null): Promise<void> {
    delivery = of
    table.value = null
    pairing.value = nothing
    chosen.value = []
    past.value = []
    done = []
    order.value = []
    focus.value = null
    await refresh()
  }
  async function refresh(): Promise<void> {
    await read().catch((error: unknown) => faults.put(error))
  }
  /** Gives a texture or a surface of values to a cell, or leaves it open; nothing is handed over yet. */
  async function choose(
    cell: Pick<PairingCell, 'slot' | 'input'>,
    texture: string | null,
    preset: string | null = null,
  ): Promise<void> {
    past.value = [...past.value, { kind: 'chosen', before: chosen.value }]
    chosen.value = [
      ...chosen.value.filter((c) => c.slot !== cell.slot || c.input !== cell.input),
      { slot: cell.slot, input: cell.input, texture, preset },
    ]
    await pairAnew()
  }
  /** Hands cells over; they are what feeds the slots from then on. */
  async function hand(cells: readonly PairingCell[]): Promise<void> {
    const ready = cells.filter(isReady)
    if (busy.value || ready.length === 0 || project.openId === null) return
    busy.value = true
    try {
      const change = await acceptPairing(project.openId, {
        cells: ready.map(({ slot, input, texture, preset, layout, inverted }) => ({
          slot,
          input,
          texture,
          preset,
          layout,
          inverted,
        })),
      })
      chosen.value = chosen.value.filter((c) => !ready.some((r) => r.slot === c.slot && r.input === c.input))
      const owners = ready.map((c) => ownerOfId(c.slot))
      done = [...new Set([...done.filter((d) => !owners.includes(d)), ...owners])]
      past.value = [...past.value, { kind: 'accepted', change: change.id }]
      await read()
    } catch (error) {
      faults.put(error)
    } finally {
      busy.value = false
    }
  }
  const acceptLine = (slot: string): Promise<void> => hand(pairing.value.cells.filter((c) => c.slot === slot))
  const acceptSure = (): Promise<void> => hand(sure.value)
  const acceptSurfaces = (): Promise<void> => hand(surfaces.value)
  async function undo(): Promise<void> {
    const last = past.value.at(-1)
    if (!last || busy.value) return
    past.value = past.value.slice(0, -1)
    if (last.kind === 'chosen') {
      chosen.value = last.before
      await pairAnew()
      return
    }
    busy.value = true
    try {
      await undoMany(last.change)
      await read()
    } catch (error) {
      faults.put(error)
    } finally {
      busy.value = false
    }
  }
  return {
    table,
    pairing,
    accept,
    busy,
    past,
    focus,
    focused,
    textures,
    lines,
    columns,
    narrow,
    sure,
    surfaces,
    counts,
    choices,
    mayStayOpen,
    isChosen,
    isReady,
    load,
    refresh,
    choose,
    take,
    acceptLine,
    acceptSure,
    acceptSurfaces,
    undo,
  }
})

/** What asks for a decision first: conflicts, open cells, unsure ones; then what is fed. */
function sortedSlots(slots: readonly PairingSlot[], { cells }: Pairing, accept: number): string[] {
  const urgency = new Map<string, number>()
  for (const cell of cells) {
    const own =
      cell.state === 'open'
        ? 2
        : cell.state === 'wired'
          ? 0
          : cell.rivals.length > 0
            ? 3
            : cell.confidence < accept
              ? 1.5
              : 1
    urgency.set(cell.slot, Math.max(urgency.get(cell.slot) ?? 0, own))
  }
  return slots
    .map((s, place) => ({ id: s.id, place, urgency: urgency.get(s.id) ?? 0 }))
    .sort((a, b) => b.urgency - a.urgency || a.place - b.place)
    .map((s) => s.id)
}
