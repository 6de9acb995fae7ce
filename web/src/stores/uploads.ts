import { defineStore } from 'pinia'
import { ref } from 'vue'
import type { Delivery } from '@stern-gate/contract'
import type { BroughtFile } from '../api/droppedFiles'
import { closeDelivery, continueAsset, createDelivery, sendFiles } from '../api/client'
import { useArrivals } from './arrivals'
import { useIntake } from './intake'
import { useFaults } from './faults'
import { useProject } from './project'

const BATCH_FILES = 24
const BATCH_BYTES = 32 * 1024 * 1024

/** Sends dropped files in batches, with progress by bytes. */
export const useUploads = defineStore('uploads', () => {
  const project = useProject()
  const arrivals = useArrivals()
  const intake = useIntake()
  const faults = useFaults()
  const sending = ref<{ delivery: string; files: number; sent: number; bytes: number; bytesSent: number } | null>(null)
  let stopper: AbortController | null = null

  const bring = (files: BroughtFile[]): Promise<void> => send(files, (id) => createDelivery(id, noteOf(files), intake.chosenId))
  /** Sends what an asset was missing; it becomes the asset's next version, with all that it had. */
  const complete = (asset: string, files: BroughtFile[]): Promise<void> => send(files, () => continueAsset(asset, noteOf(files)))
  const send = async (files: BroughtFile[], begin: (project: string) => Promise<Delivery>): Promise<void> => {
    if (files.length === 0 || project.openId === null) return
    stopper = new AbortController()
    try {
      const delivery = await begin(project.openId)
      sending.value = { delivery: delivery.id, files: files.length, sent: 0, bytes: files.reduce((sum, f) => sum + f.file.size, 0), bytesSent: 0 }
      arrivals.refreshSoon()
      for (const batch of batches(files)) {
        await sendFiles(delivery.id, batch, stopper.signal)
        sending.value.sent += batch.length
        sending.value.bytesSent += batch.reduce((sum, f) => sum + f.file.size, 0)
      }
      await closeDelivery(delivery.id)
    } catch (error) {
      faults.put(error)
    } finally {
      sending.value = null
      await arrivals.refresh()
    }
  }
  const stop = (): void => stopper?.abort()
  return { sending, bring, complete, stop }
})

/** The folder that was dropped, or the first file. */
function noteOf(files: readonly BroughtFile[]): string {
  const first = files[0]!.path
  const folder = first.includes('/') ? first.slice(0, first.indexOf('/')) : null
  return (folder ?? (files.length === 1 ? first : `${first} and ${files.length - 1} more`)).slice(0, 200)
}

function* batches(files: readonly BroughtFile[]): Generator<BroughtFile[]> {
  let batch: BroughtFile[] = [], bytes = 0
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
