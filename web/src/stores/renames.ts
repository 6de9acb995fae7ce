import { troubleWords } from '../words/troubleWords'
import { computed, ref, shallowRef } from 'vue'
import type { RemedyOptions, RenameFollow, RenamePlan } from '@stern-gate/contract'
import { planRenames } from '../api/client'

/** One name of the list: what it is now, what it would be, and whether it is to be. */
export interface RenameRow {
  key: string
  asset: string
  assetName: string
  rule: string
  what: string
  from: string
  to: string
  on: boolean
  follows: RenameFollow[]
}

/** What would go wrong with a new name; null: nothing. */
export type RenameTrouble = 'empty' | 'letters' | 'twice' | null

const SEPARATORS = /[/\\:*?"<>|\p{Cc}]|^\.|[. ]$/u

/** The names that a renaming of many would change, to be looked over: kept by the dialog that shows them. */
export function useRenames() {
  const rows = ref<RenameRow[]>([])
  const reading = ref(true)
  const trouble = shallowRef('')

  async function read(project: string, assets: readonly string[]): Promise<void> {
    reading.value = true
    try {
      rows.value = (await planRenames(project, assets)).flatMap(rowsOf)
    } catch (error) {
      trouble.value = troubleWords(error)
    } finally {
      reading.value = false
    }
  }

  /** New names by what must be unique: assets in the project, other things in their asset. */
  const places = computed(() => {
    const taken = new Map<string, number>()
    for (const row of rows.value) if (row.on) taken.set(placeOf(row), (taken.get(placeOf(row)) ?? 0) + 1)
    return taken
  })
  const troubleOf = (row: RenameRow): RenameTrouble => {
    if (!row.on) return null
    if (row.to.trim() === '') return 'empty'
    if (SEPARATORS.test(row.to) || row.to.length > 120) return 'letters'
    return places.value.get(placeOf(row))! > 1 ? 'twice' : null
  }
  const chosen = computed(() => rows.value.filter((r) => r.on && r.to !== r.from))
  const follows = computed(() => chosen.value.reduce((sum, r) => sum + r.follows.length, 0))
  const ready = computed(() => chosen.value.length > 0 && chosen.value.every((r) => troubleOf(r) === null))
  const steps = (): { asset: string; rule: string; options: RemedyOptions }[] =>
    chosen.value.map(({ asset, rule, what, from, to }) => ({ asset, rule, options: { what, from, to } }))
  return { rows, reading, trouble, read, troubleOf, chosen, follows, ready, steps }
}

const placeOf = ({ what, asset, to }: RenameRow): string =>
  `${what} ${what === 'asset' ? '' : asset} ${to.toLowerCase()}`

const rowsOf = ({ asset, name, renames }: RenamePlan): RenameRow[] =>
  renames.map((r) => ({ key: `${asset} ${r.what} ${r.from}`, asset, assetName: name, on: true, ...r }))
