<script setup lang="ts">
import { ref, watch } from 'vue'
import { NInput } from 'naive-ui'
import { useRoute, useRouter } from 'vue-router'
import { useFaults } from '../stores/faults'
import { useProject } from '../stores/project'

// The first page: with a project there it leads on at once, without one it asks for its name
const project = useProject()
const faults = useFaults()
const router = useRouter()
const route = useRoute()
const name = ref('')

watch(
  [() => project.loaded, () => route.query['new']],
  ([loaded, asked]) => {
    const first = project.all[0]
    if (loaded && first && !asked) void router.replace({ name: 'arrivals', params: { project: first.id } })
  },
  { immediate: true },
)

async function begin(): Promise<void> {
  try {
    const made = await project.create(name.value.trim())
    await router.push({ name: 'arrivals', params: { project: made.id } })
  } catch (error) {
    faults.put(error)
  }
}
</script>

<template>
  <div class="welcome">
    <form v-if="project.loaded" @submit.prevent="begin">
      <svg viewBox="0 0 30 30" fill="none" stroke="var(--tide)" stroke-width="1.3" aria-hidden="true">
        <path d="M4 5h22v9c0 6-4.600 9.500-11 11.500C8.600 23.500 4 20 4 14z" />
        <path d="M15 5v20.500M9.500 5v17.200M20.500 5v17.200" stroke-width=".8" />
        <path d="M4 12h22" stroke-width=".8" />
      </svg>
      <h1>What is the game called?</h1>
      <p class="soft">
        A project holds one game's meshes and textures, and the rules that they are checked by. Next you drop
        your files onto the page.
      </p>
      <label for="project-name" class="visually-hidden">Name of the project</label>
      <NInput
        v-model:value="name"
        :input-props="{ id: 'project-name', maxlength: 80 }"
        placeholder="Name of the project"
        size="large"
        autofocus
      />
      <button class="btn go" :disabled="name.trim() === ''">Open the project</button>
    </form>
  </div>
</template>

<style scoped>
.welcome {
  display: grid;
  place-items: center;
}
form {
  width: 420px;
  display: grid;
  gap: 12px;
  justify-items: start;
}
form > :deep(.n-input) {
  width: 100%;
}
svg {
  width: 64px;
}
h1 {
  font: 600 24px/1.2 var(--text);
}
.btn {
  font-size: 14px;
  padding: 10px 16px;
}
</style>
