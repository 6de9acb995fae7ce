<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { droppedFiles } from '../../api/droppedFiles'
import { useFaults } from '../../stores/faults'
import { useProject } from '../../stores/project'
import { useUploads } from '../../stores/uploads'

// Files may be dropped anywhere on the page, and pasted
const uploads = useUploads()
const faults = useFaults()
const project = useProject()
const route = useRoute()
const router = useRouter()
const over = ref(false)
let depth = 0

const hasFiles = (event: DragEvent): boolean => event.dataTransfer?.types.includes('Files') ?? false
function enter(event: DragEvent): void {
  if (!hasFiles(event)) return
  event.preventDefault()
  depth++
  over.value = true
}
function leave(event: DragEvent): void {
  if (hasFiles(event) && --depth <= 0) over.value = false
}
function hover(event: DragEvent): void {
  if (hasFiles(event)) event.preventDefault()
}
function drop(event: DragEvent): void {
  if (!hasFiles(event) || !event.dataTransfer) return
  depth = 0
  over.value = false
  // A place on the page that takes files for itself did so
  if (event.defaultPrevented) return
  event.preventDefault()
  void take(event.dataTransfer)
}
function paste(event: ClipboardEvent): void {
  if (event.clipboardData && event.clipboardData.files.length > 0) void take(event.clipboardData)
}
async function take(transfer: DataTransfer): Promise<void> {
  try {
    const files = await droppedFiles(transfer)
    if (route.name !== 'arrivals' && project.open)
      await router.push({ name: 'arrivals', params: { project: project.open.id } })
    await uploads.bring(files)
  } catch (error) {
    faults.put(error)
  }
}
const events = { dragenter: enter, dragleave: leave, dragover: hover, drop, paste } as Record<
  string,
  (event: never) => void
>
onMounted(() => {
  for (const [name, handle] of Object.entries(events)) addEventListener(name, handle as EventListener)
})
onBeforeUnmount(() => {
  for (const [name, handle] of Object.entries(events)) removeEventListener(name, handle as EventListener)
})
</script>

<template>
  <div v-if="over" class="catch">
    <p>Let go to deliver<span>meshes, textures, whole folders</span></p>
  </div>
</template>

<style scoped>
.catch {
  position: fixed;
  inset: 0;
  z-index: 20;
  display: grid;
  place-items: center;
  background: color-mix(in srgb, var(--paper) 82%, transparent);
  outline: 3px dashed var(--tide);
  outline-offset: -14px;
  pointer-events: none;
}
p {
  font: 600 24px/1.3 var(--text);
  text-align: center;
}
span {
  display: block;
  font: 400 14px var(--text);
  color: var(--soft);
}
</style>
