import { defineStore } from 'pinia'
import { ref, shallowRef, watch } from 'vue'
import type { Delivery } from '@stern-gate/contract'
import type { BroughtFile } from '../api/droppedFiles'
import { closeDelivery, continueAsset, createDelivery, sendFiles } from '../api/client'
import { findUnfinished, sendRemembered, type Unfinished } from '../api/unfinished'
import { useArrivals } from './arrivals'
import { useIntake } from './intake'
import { useFaults } from './faults'
import { useProject } from './project'

/** Larger ones go by api/largeFiles. */
const LARGE_BYTES = 24 * 1024 * 1024
const BATCH_FILES = 24
const BATCH_BYTES = 32 * 1024 * 1024

/** Sends dropped files in batches, with progress by bytes. */
export const useUploads = defineStore('uploads', () => {
  const project = useProject()
  const arrivals = useArrivals()
  const intake = useIntake()
  const faults = useFaults()
  const sending = ref<{
    delivery: string
    files: number
    sent: number
    bytes: number
    bytesSent: number
  } | null>(null)
  let stopper: AbortController | null = null

  /** A delivery of this browser that was not sent to its end. */
  const unsent = shallowRef<Delivery | null>(null)
  const look = async (): Promise<void> => {
    unsent.value =
      project.openId === null || sending.value
        ? null
        : ((await findUnfinished(project.openId))?.delivery ?? null)
  }
  watch(() => project.openId, look, { immediate: true })

  /** What was begun under the same note and broke off goes on where it stopped. */
  const bring = (files: BroughtFile[]): Promise<void> =>
    send(files, async (id) => {
      const before = sending.value ? null : await findUnfinished(id)
      return before?.delivery.note === noteOf(files)
        ? before
        : { delivery: await createDelivery(id, noteOf(files), intake.chosenName), there: new Map() }
    })
  /** Sends what an asset was missing; it becomes the asset's next version, with all that it had. */
  const complete = (asset: string, files: BroughtFile[]): Promise<void> =>
    send(files, async () => ({
      delivery: await continueAsset(asset, `for an asset: ${noteOf(files)}`.slice(0, 200)),
      there: new Map(),
    }))
  const send = async (
    files: BroughtFile[],
    begin: (project: string) => Promise<Unfinished>,
  ): Promise<void> => {
    const id = project.openId
    if (files.length === 0 || id === null) return
    stopper = new AbortController()
    const { signal } = stopper
    try {
      const { delivery, there } = await begin(id)
      const open = files.filter((f) => there.get(f.path) !== f.file.size)
      sending.value = {
        delivery: delivery.id,
        files: open.length,
        sent: 0,
        bytes: open.reduce((sum, f) => sum + f.file.size, 0),
        bytesSent: 0,
      }
      unsent.value = null
      arrivals.refreshSoon()
      await sendRemembered(id, delivery.id, async () => {
        await sendAll(delivery.id, open, signal)
        await closeDelivery(delivery.id)
      })
    } catch (error) {
      if ((error as Error).name !== 'AbortError') faults.put(error)
    } finally {
      sending.value = null
      await Promise.all([arrivals.refresh(), look()])
    }
  }
  const count = (files: number, bytes: number): void => {
    if (!sending.value) return
    sending.value.sent += files
    sending.value.bytesSent += bytes
  }
  const sendAll = async (
    delivery: string,
    files: readonly BroughtFile[],
    signal: AbortSignal,
  ): Promise<void> => {
    for (const batch of batches(files.filter((f) => f.file.size < LARGE_BYTES))) {
      await sendFiles(delivery, batch, signal)
      count(
        batch.length,
        batch.reduce((sum, f) => sum + f.file.size, 0),
      )
    }
    const large = files.filter((f) => f.file.size >= LARGE_BYTES)
    if (large.length === 0) return
    // Comes when a large file does
    const { sendLargeFile } = await import('../api/largeFiles')
    for (const file of large) {
      let told = 0
      await sendLargeFile(
        delivery,
        file,
        (bytes) => {
          count(0, bytes - told)
          told = bytes
        },
        signal,
      )
      count(1, file.file.size - told)
    }
  }
  /** Measures what came of a delivery that was not sent to its end. */
  const finish = async (delivery: string): Promise<void> => {
    await closeDelivery(delivery).catch(faults.put)
    await Promise.all([arrivals.refresh(), look()])
  }
  const giveUp = async (delivery: string): Promise<void> => {
    await arrivals.cancel(delivery)
    await look()
  }
  const stop = (): void => stopper?.abort()
  return { sending, unsent, bring, complete, finish, giveUp, stop }
})

/** The folder that was dropped, or the first file. */
function noteOf(files: readonly BroughtFile[]): string {
  const first = files[0]!.path
  const folder = first.includes('/') ? first.slice(0, first.indexOf('/')) : null
  return (folder ?? (files.length === 1 ? first : `${first} and ${files.length - 1} more`)).slice(0, 200)
}

function* batches(files: readonly BroughtFile[]): Generator<BroughtFile[]> {
  let batch: BroughtFile[] = [],
    bytes = 0
  for (const file of files) {
    if (batch.length > 0 && (batch.length >= BATCH_FILES || bytes + file.file.size > BATCH_BYTES)) {
      yield batch
      batch = []
      bytes = 0
    }
    batch.push(file)
    bytes += file.file.size
  }
  if (batch.length > 0) yield batch
}
