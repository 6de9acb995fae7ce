<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import type { RemedyOptions, SharedSurface } from '@stern-gate/contract'
import { useSurfaces } from '../../stores/surfaces'

// The surface of the project that a slot follows: kept under a name, changed for all that follow it, who they are
const props = defineProps<{
  /** What the slot's step says. */
  said: RemedyOptions
  locked: boolean
}>()
/** The slot follows a surface and says nothing else. */
const emit = defineEmits<{ follow: [name: string] }>()
const surfaces = useSurfaces(),
  route = useRoute()
const here = computed(() => String(route.params['asset']))
const followed = computed(() => (typeof props.said['shared'] === 'string' ? props.said['shared'] : null))
const surface = computed(() => (followed.value === null ? undefined : surfaces.find(followed.value)))
/** Values that the slot sets itself. */
const own = computed(
  () =>
    Object.fromEntries(
      Object.entries(props.said).filter(
        ([key, v]) => v !== null && !['slot', 'preset', 'shared', 'called'].includes(key),
      ),
    ) as SharedSurface['values'],
)
const ownCount = computed(() => Object.keys(own.value).length)
const preset = computed(() => (typeof props.said['preset'] === 'string' ? props.said['preset'] : null))
const keepable = computed(() => ownCount.value > 0 || (preset.value !== null && followed.value === null))
const slots = (n: number): string => `${n} ${n === 1 ? 'slot' : 'slots'}`
const assets = computed(() => new Set(surface.value?.users.map((u) => u.asset)).size)

const typed = ref<string | null>(null),
  busy = ref(false)
watch(
  () => props.said['slot'],
  () => (typed.value = null),
)
// Who follows it has changed with the slot's step
watch(followed, () => void surfaces.load())
const taken = computed(() => surfaces.find(typed.value?.trim() ?? '') !== undefined)
async function keep(): Promise<void> {
  const name = typed.value?.trim()
  if (!name || taken.value) return
  busy.value = true
  const saved = await surfaces.save(name, {
    follows: followed.value,
    preset: followed.value === null ? preset.value : null,
    values: own.value,
  })
  busy.value = false
  if (!saved) return
  typed.value = null
  emit('follow', name)
}
async function giveToAll(): Promise<void> {
  const now = surface.value
  if (!now) return
  busy.value = true
  const saved = await surfaces.save(now.name, {
    ...now.surface,
    values: { ...now.surface.values, ...own.value },
  })
  busy.value = false
  if (saved) emit('follow', now.name)
}
</script>

<template>
  <div class="shared" data-shared-surface>
    <p v-if="surface && surface.users.length > 0" class="soft">
      <template v-if="surface.surface.follows"
        >{{ surface.name }} follows {{ surface.surface.follows }}.
      </template>
      Followed by {{ slots(surface.users.length) }} of {{ assets }} {{ assets === 1 ? 'asset' : 'assets' }}:
      <template v-for="(u, i) in surface.users.slice(0, 4)" :key="`${u.asset} ${u.slot}`"
        ><template v-if="i > 0">, </template>
        <RouterLink :to="{ params: { asset: u.asset }, query: { row: u.slot } }">{{
          u.asset === here ? u.slot : u.name
        }}</RouterLink></template
      ><template v-if="surface.users.length > 4"> and {{ surface.users.length - 4 }} more</template>.
    </p>
    <p v-else-if="followed && !surface" class="gone">
      The project has no surface called {{ followed }} any more.
    </p>
    <template v-if="typed === null">
      <button
        v-if="surface && ownCount > 0"
        class="btn"
        :disabled="locked || busy"
        :title="`${slots(surface.users.length)} change with it`"
        data-give-to-all
        @click="giveToAll"
      >
        Change {{ surface.name }} for {{ slots(surface.users.length) }}
      </button>
      <button v-if="keepable" class="btn" :disabled="locked || busy" data-keep-surface @click="typed = ''">
        Keep as a surface …
      </button>
    </template>
    <form v-else class="name" @submit.prevent="keep">
      <input
        v-model="typed"
        class="field"
        maxlength="60"
        :placeholder="followed ? `such as worn ${followed}` : 'its name, such as harbour paint'"
        aria-label="Name of the surface"
        data-surface-name
        @keydown.esc.stop="typed = null"
      />
      <button class="btn" :disabled="busy || !typed.trim() || taken">Keep</button>
      <small v-if="taken" class="gone">There is one of this name.</small>
    </form>
  </div>
</template>

<style scoped src="../forms/field.css" />
<style scoped>
.shared {
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
  margin-top: 6px;
}
p {
  margin: 0;
  width: 100%;
  font-size: 12px;
  line-height: 1.4;
}
.gone {
  color: var(--caution);
}
.btn {
  padding: 2px 8px;
  font-size: 12px;
}
.name {
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
  width: 100%;
}
.field {
  flex: 1;
}
</style>
