import { useRouter } from 'vue-router'
import { keepFromBefore, openScene } from '../api/client'
import { useBench } from '../stores/bench'
import { useFaults } from '../stores/faults'
import { useProject } from '../stores/project'

/**
 * Opens the file of an asset as a scene that can be taken apart, without an id that of the bench; and takes over what
 * the newest version of the one on the bench lacks.
 */
export function useApart(): { open: (asset?: string) => Promise<void>; keep: () => Promise<void> } {
  const router = useRouter(),
    bench = useBench(),
    project = useProject(),
    faults = useFaults()
  return {
    async open(asset = bench.detail?.id) {
      if (asset === undefined) return
      try {
        const { id } = await openScene(asset)
        await router.push({ name: 'scene', params: { project: project.openId, scene: id } })
      } catch (error) {
        faults.put(error)
      }
    },
    async keep() {
      if (!bench.detail) return
      try {
        await keepFromBefore(bench.detail.id)
      } catch (error) {
        faults.put(error)
      }
    },
  }
}
