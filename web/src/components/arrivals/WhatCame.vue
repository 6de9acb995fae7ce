<script setup lang="ts">
import { countOf } from '@stern-gate/core/numbers'
import { computed, defineAsyncComponent, ref } from 'vue'
import { useRouter } from 'vue-router'
import type { Delivery, SharedFinding } from '@stern-gate/contract'
import { useApart } from '../../bench/useApart'
import { useBulk } from '../../stores/bulk'
import { useProject } from '../../stores/project'
import { sceneChangeWords } from '../../words/sceneChanges'
import { useWhatCame } from './useWhatCame'

// What most of what came has in common, said once: mended by one act; or the rulebook may be what does not fit
const props = defineProps<{ deliveries: readonly Delivery[]; assets: number; stamp: string; busy: boolean }>()
const project = useProject()
const bulk = useBulk()
const router = useRouter()
const MendDialog = defineAsyncComponent(() => import('../mending/MendDialog.vue'))
const mending = ref(false)
const putAway = ref<Set<string>>(new Set())

/** Of fewer assets nothing is concluded. */
const LEAST = 5
/** What a delivery has in common is said as long as one remembers it. */
const FRESH_MS = 3_600_000
const newest = computed(() => {
  const [first] = props.deliveries
  return first && first.state === 'done' && Date.now() - Date.parse(first.created) < FRESH_MS ? first : null
})
const isFirst = computed(() => project.open?.rulebookRevision === 1 && !props.busy && props.assets >= LEAST)
const known = useWhatCame(() => ({
  project: project.openId,
  newest: newest.value,
  asksFirst: isFirst.value,
  stamp: props.stamp,
  busy: props.busy,
}))
const apart = useApart()
const reply = computed(() => known.value?.first ?? null)
const found = computed(() => known.value?.newest ?? null)
const scenes = computed(() => known.value?.scenes ?? null)
const PAIR = 'pair'
const pairs = computed(() => {
  const w = known.value?.waiting
  return w && w.meshes > 0 && !putAway.value.has(PAIR) ? w : null
})
/** More than this many are not offered one by one. */
const MOST_SEVERAL = 2
const several = computed(() =>
  (scenes.value?.several ?? []).filter((s) => !putAway.value.has(s.asset)).slice(0, MOST_SEVERAL),
)
const changed = computed(() =>
  (scenes.value?.scenes ?? []).flatMap((s) => {
    const words = sceneChangeWords(s.delivery === newest.value?.id ? s.changes : null)
    return words.length > 0 && !putAway.value.has(s.id + s.revision)
      ? [{ scene: s, words: words.join('; ') }]
      : []
  }),
)
const misnamed = computed(() => {
  const by = reply.value?.found ?? {}
  return Math.max(by['names/pattern'] ?? 0, by['names/characters'] ?? 0)
})
const FIRST = 'first look'
const offersFit = computed(
  () => reply.value?.revision === 1 && misnamed.value >= props.assets * 0.5 && !putAway.value.has(FIRST),
)
const key = (s: SharedFinding): string => `${found.value?.delivery.id} ${s.rule} ${s.message}`
const shared = computed(() =>
  (found.value?.shared ?? []).filter(
    (s) => !putAway.value.has(key(s)) && !(s.rule === 'names/pattern' && offersFit.value),
  ),
)
const SAFE = 'safe'
const safe = computed(() => {
  const plan = found.value?.safe
  return plan && plan.steps > 0 && !putAway.value.has(`${SAFE} ${found.value!.delivery.id}`) ? plan : null
})
const leave = (what: string): void => {
  putAway.value = new Set([...putAway.value, what])
}
const fit = (): void =>
  void router.push({ name: 'rulebook', params: { project: project.openId }, query: { fit: '1' } })
const mend = (s: SharedFinding): Promise<void> => bulk.applyRule(s.rule, s.act.remedy!, s.assets)
</script>

<template>
  <div
    v-if="
      known && (offersFit || shared.length > 0 || safe || several.length > 0 || changed.length > 0 || pairs)
    "
    class="came"
  >
    <section v-for="s in several" :key="s.asset" role="status" :data-several="s.name">
      <p>
        <b class="mono">{{ s.name }}</b> holds {{ s.things }} things that stand apart.
      </p>
      <button class="btn go" @click="apart.open(s.asset)">Take it apart …</button>
      <button class="btn" aria-label="Not now" @click="leave(s.asset)">×</button>
    </section>
    <section v-if="pairs" role="status" data-pair>
      <p>
        <b>{{ pairs.meshes === 1 ? '1 mesh' : `${pairs.meshes} meshes` }}</b>
        {{ pairs.meshes === 1 ? 'has' : 'have' }} slots without textures<template v-if="pairs.sets > 0"
          >, and {{ countOf(pairs.sets, 'texture set') }} {{ pairs.sets === 1 ? 'belongs' : 'belong' }} to no
          mesh</template
        >.
      </p>
      <RouterLink class="btn go" :to="{ name: 'pairing', params: { project: project.openId } }"
        >Pair them …</RouterLink
      >
      <button class="btn" aria-label="Not now" @click="leave(PAIR)">×</button>
    </section>
    <section v-for="c in changed" :key="c.scene.id" role="status" :data-changed="c.scene.name">
      <p>
        <b class="mono">{{ c.scene.name }}</b> was taken apart as before; {{ c.words }}.
      </p>
      <RouterLink class="btn" :to="{ name: 'scene', params: { project: project.openId, scene: c.scene.id } }"
        >Look at its parts</RouterLink
      >
      <button class="btn" aria-label="Not now" @click="leave(c.scene.id + c.scene.revision)">×</button>
    </section>
    <section v-if="offersFit" role="status" data-first-look>
      <p>
        <b>{{ misnamed }} of {{ assets }} assets</b> have names that do not fit the pattern that every project
        starts with. If they are right as they are, the rulebook can be fitted to them.
      </p>
      <button class="btn go" @click="fit">Fit the rulebook …</button>
      <button class="btn" aria-label="Not now" @click="leave(FIRST)">×</button>
    </section>
    <section v-for="s in shared" :key="key(s)" role="status" :data-shared="s.rule">
      <p>
        <b>Delivery {{ found!.delivery.number }}</b> {{ s.text }}
      </p>
      <button class="btn" @click="bulk.choose(s.assets)">Choose them</button>
      <button v-if="s.act.kind === 'fit'" class="btn go" @click="fit">Fit the rulebook …</button>
      <button v-else class="btn go" :disabled="bulk.busy" data-mend-shared @click="mend(s)">
        Mend all {{ s.assets.length }}
      </button>
      <button class="btn" aria-label="Not now" @click="leave(key(s))">×</button>
    </section>
    <section v-if="safe" role="status" data-safe-offer>
      <p>
        <b>Delivery {{ found!.delivery.number }}</b> {{ safe.steps }}
        {{ safe.steps === 1 ? 'step' : 'steps' }} on {{ safe.assets }}
        {{ safe.assets === 1 ? 'asset' : 'assets' }} would mend what is safe to mend by itself.
      </p>
      <button class="btn go" @click="mending = true">Mend what is safe …</button>
      <button class="btn" aria-label="Not now" @click="leave(`${SAFE} ${found!.delivery.id}`)">×</button>
    </section>
    <MendDialog
      v-if="mending && found"
      :assets="null"
      :delivery="found.delivery.id"
      :of="`what delivery ${found.delivery.number} brought`"
      @close="mending = false"
    />
  </div>
</template>

<style scoped>
.came {
  display: grid;
  gap: 6px;
  padding: 10px 18px 0;
}
section {
  display: flex;
  gap: 8px;
  align-items: center;
  background: var(--wash);
  border: 1px solid var(--tide);
  border-radius: 3px;
  padding: 7px 8px 7px 12px;
}
p {
  flex: 1;
}
</style>
