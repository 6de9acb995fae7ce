import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import {
  type Effect,
  type Fit,
  type LiveEvent,
  type Proposal,
  type Revision,
  type Rulebook,
  type RuleInfo,
  type RulebookReply,
} from '@stern-gate/contract'
import {
  CallFailed,
  fitLibrary,
  getEffect,
  getRevision,
  getRulebook,
  listRevisions,
  readRulebookFile,
  saveRulebook,
} from '../api/client'
import { useFaults } from './faults'
import { useProject } from './project'
import { rebased } from './rebased'

/** What a draft would do is asked once nothing more was changed for so long. */
const PAUSE_MS = 140

type Path = readonly (string | number)[]

/** The rulebook that is open, what was changed of it, and what that would do. */
export const useRulebook = defineStore('rulebook', () => {
  const project = useProject()
  const faults = useFaults()
  const reply = shallowRef<RulebookReply | null>(null)
  const draft = ref<Rulebook | null>(null)
  const effect = shallowRef<Effect | null>(null)
  /** Why the draft is no rulebook, in words. */
  const mistake = ref<string | null>(null)
  const asking = ref(false)
  const saving = ref(false)
  const revisions = shallowRef<Revision[]>([])
  const fit = shallowRef<Fit | null>(null)
  const fitting = ref(false)

  /** The project whose rulebook this is. */
  let readFor: string | null = null

  const before = computed(() => reply.value?.rulebook ?? null)
  const changed = computed(
    () => draft.value !== null && JSON.stringify(draft.value) !== JSON.stringify(before.value),
  )
  const rules = computed<readonly RuleInfo[]>(() => reply.value?.rules ?? [])
  const copyOf = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T

  const read = async (): Promise<void> => {
    const id = project.openId
    if (id === null) return
    try {
      const answer = await getRulebook(id)
      if (project.openId !== id) return
      // What is being changed is kept, and laid over what is in force now; that of another project is not
      const kept =
        changed.value && readFor === id ? rebased(before.value, draft.value, answer.rulebook) : null
      readFor = id
      reply.value = answer
      draft.value = copyOf((kept ?? answer.rulebook) as Rulebook)
    } catch (error) {
      faults.put(error)
    }
  }
  const valueAt = (of: unknown, path: Path): unknown =>
    path.reduce<unknown>((at, key) => (at as Record<string | number, unknown> | undefined)?.[key], of)
  /** Puts a value into the draft; undefined takes the key out, and what is empty above it. */
  const set = (path: Path, value: unknown): void => {
    if (!draft.value) return
    const next = copyOf(draft.value) as unknown as Record<string, unknown>
    put(next, path, value)
    draft.value = next as unknown as Rulebook
  }
  const leave = (): void => {
    if (reply.value) draft.value = copyOf(reply.value.rulebook)
    effect.value = null
    mistake.value = null
  }
  let stopped: AbortController | null = null
  let pause: ReturnType<typeof setTimeout> | undefined
  const ask = async (): Promise<void> => {
    stopped?.abort()
    const own = (stopped = new AbortController())
    if (!changed.value || project.openId === null) return
    asking.value = true
    try {
      const answer = await getEffect(
        project.openId,
        draft.value as unknown as Record<string, unknown>,
        own.signal,
      )
      if (own.signal.aborted) return
      effect.value = answer
      mistake.value = null
    } catch (error) {
      if (own.signal.aborted) return
      const fault = error instanceof CallFailed ? error.fault : null
      if (fault?.code === 'rulebook/invalid' || fault?.code === 'pattern/invalid') mistake.value = fault.why
      else faults.put(error)
    } finally {
      if (!own.signal.aborted) asking.value = false
    }
  }
  watch(draft, () => {
    clearTimeout(pause)
    if (!changed.value) {
      stopped?.abort()
      effect.value = null
      mistake.value = null
      asking.value = false
      return
    }
    asking.value = true
    pause = setTimeout(() => void ask(), PAUSE_MS)
  })
  const save = async (note: string): Promise<boolean> => {
    if (!reply.value || !draft.value || project.openId === null || saving.value) return false
    saving.value = true
    try {
      await saveRulebook(project.openId, {
        rulebook: draft.value as unknown as Record<string, unknown>,
        revision: reply.value.revision,
        note,
      })
      const answer = await getRulebook(project.openId)
      reply.value = answer
      draft.value = copyOf(answer.rulebook)
      effect.value = null
      await project.load()
      return true
    } catch (error) {
      faults.put(error)
      return false
    } finally {
      saving.value = false
    }
  }
  const readRevisions = async (): Promise<void> => {
    if (project.openId === null) return
    try {
      revisions.value = await listRevisions(project.openId)
    } catch (error) {
      faults.put(error)
    }
  }
  /** Takes a former revision as the draft. */
  const returnTo = async (number: number): Promise<void> => {
    if (project.openId === null) return
    try {
      draft.value = (await getRevision(project.openId, number)).rulebook as unknown as Rulebook
    } catch (error) {
      faults.put(error)
    }
  }
  /** Takes a file's words as the draft; its mistake comes back, with its place. */
  const takeFile = async (text: string): Promise<string | null> => {
    if (project.openId === null) return null
    try {
      const { rulebook, fault } = await readRulebookFile(project.openId, text)
      if (rulebook) draft.value = rulebook
      return fault ? `${fault.why} ${fault.hint}` : null
    } catch (error) {
      faults.put(error)
      return null
    }
  }
  const askFit = async (assets: readonly string[] | null): Promise<void> => {
    if (project.openId === null) return
    fitting.value = true
    fit.value = null
    try {
      fit.value = await fitLibrary(project.openId, assets)
    } catch (error) {
      faults.put(error)
    } finally {
      fitting.value = false
    }
  }
  const withProposals = (of: Rulebook, proposals: readonly Proposal[]): Record<string, unknown> => {
    const next = copyOf(of) as unknown as Record<string, unknown>
    for (const { path, value } of proposals.flatMap((p) => p.change)) put(next, path, value)
    return next
  }
  /** Takes proposals into the draft. */
  const accept = (proposals: readonly Proposal[]): void => {
    if (draft.value) draft.value = withProposals(draft.value, proposals) as unknown as Rulebook
  }
  /** What the draft would do with these proposals in it; null where it was stopped or could not be told. */
  const effectOf = async (proposals: readonly Proposal[], signal: AbortSignal): Promise<Effect | null> => {
    if (!draft.value || project.openId === null) return null
    try {
      return await getEffect(project.openId, withProposals(draft.value, proposals), signal)
    } catch {
      return null
    }
  }
  const hear = (event: LiveEvent): void => {
    if (event.kind === 'rulebook' && event.revision !== reply.value?.revision) void read()
  }
  return {
    reply,
    draft,
    before,
    changed,
    effect,
    mistake,
    asking,
    saving,
    rules,
    revisions,
    fit,
    fitting,
    read,
    set,
    valueAt,
    leave,
    save,
    readRevisions,
    returnTo,
    takeFile,
    askFit,
    accept,
    effectOf,
    hear,
  }
})

/** `+` at the end of a path adds to a list; undefined takes the key out. */
function put(into: Record<string | number, unknown>, path: Path, value: unknown): void {
  const [key, ...rest] = path as [string, ...string[]]
  if (rest.length === 0) {
    if (value === undefined) delete into[key]
    else into[key] = value
    return
  }
  if (rest[0] === '+') {
    const list = (into[key] ?? []) as unknown[]
    if (!list.includes(value)) into[key] = [...list, value]
    return
  }
  const below = (into[key] ??= {}) as Record<string, unknown>
  put(below, rest, value)
  if (value === undefined && Object.keys(below).length === 0) delete into[key]
}
