<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import type { ScenePart } from '@stern-gate/contract'
import { formatCount, formatLength } from '@stern-gate/core/numbers'
import { useScene } from '../../stores/scene'

const props = defineProps<{ part: ScenePart; chosen: boolean; focused: boolean }>()
const emit = defineEmits<{ toggle: []; focus: [] }>()
const scene = useScene()
const PICTURE = 64,
  A_ROW = 16,
  SHOWN = 40

/** Its square of the sheet with all pictures. */
const picture = computed(() => {
  const sheet = scene.pictures,
    at = sheet?.keys.indexOf(props.part.key) ?? -1
  if (!sheet || at < 0) return {}
  const scale = SHOWN / PICTURE
  return {
    backgroundImage: `url(${sheet.address})`,
    backgroundSize: `${A_ROW * PICTURE * scale}px auto`,
    backgroundPosition: `${-(at % A_ROW) * SHOWN}px ${-Math.floor(at / A_ROW) * SHOWN}px`,
  }
})
const size = computed(() => {
  const { bounds } = props.part
  return bounds ? formatLength(Math.max(...bounds.max.map((v, k) => v - bounds.min[k]!))) : ''
})
const places = computed(() => props.part.copies.length + 1)
const left = computed(() =>
  props.part.left === 'figure' ? 'reference figure, left out' : props.part.left ? 'left out' : '',
)
const naming = ref(false)
const field = ref<HTMLInputElement | null>(null)
/** What is typed: bound to the part's own name, each answer of the server would put that back under one's fingers. */
const typed = ref('')
async function edit(): Promise<void> {
  typed.value = props.part.name
  naming.value = true
  await nextTick()
  field.value?.focus()
  field.value?.select()
}
function done(keep: boolean): void {
  if (!naming.value) return
  naming.value = false
  const name = typed.value
  if (keep && field.value?.checkValidity() && name !== props.part.name) scene.rename(props.part.key, name)
}
/** What a file's name does not hold. */
const NAME = '[^\\\\\\/:*?"<>\\|]+'
</script>

<template>
  <div
    class="part"
    :class="{ out: part.left !== null, focused, chosen }"
    role="option"
    tabindex="-1"
    :aria-selected="chosen"
    :data-part="part.name"
    @click="emit('focus')"
    @dblclick="edit"
  >
    <input
      type="checkbox"
      :checked="chosen"
      :aria-label="`Choose ${part.name}`"
      @click.stop="emit('toggle')"
    />
    <i class="picture" :style="picture" aria-hidden="true" />
    <div class="words">
      <input
        v-if="naming"
        ref="field"
        v-model="typed"
        class="mono"
        :pattern="NAME"
        maxlength="120"
        :aria-label="`Name of ${part.name}`"
        @keydown.enter.stop="done(true)"
        @keydown.esc.stop="done(false)"
        @keydown.stop
        @blur="done(true)"
        @click.stop
      />
      <b v-else class="mono" :title="part.key">{{ part.name }}</b>
      <span class="soft">
        <em v-if="left">{{ left }}</em>
        <em v-else-if="part.humanSize" class="ask">as large as a person: a reference figure?</em>
        <template v-else
          >{{ part.nodes.length }} {{ part.nodes.length === 1 ? 'mesh' : 'meshes'
          }}<template v-if="part.levels > 1"> · {{ part.levels }} LODs</template
          ><template v-if="part.collision"> · collision</template
          ><template v-if="part.slots.length"> · {{ part.slots.slice(0, 3).join(', ') }}</template></template
        >
      </span>
    </div>
    <span class="mono places" :title="`stands in ${places} places`">{{
      places > 1 ? `× ${places}` : ''
    }}</span>
    <span class="mono number">{{ formatCount(part.triangles) }} △</span>
    <span class="mono number">{{ size }}</span>
    <button class="btn quiet" :aria-label="`Rename ${part.name}`" title="Rename" @click.stop="edit">
      Name
    </button>
  </div>
</template>

<style scoped>
.part {
  display: flex;
  align-items: center;
  gap: 9px;
  height: 49px;
  padding: 0 12px 0 18px;
  border-bottom: 1px solid var(--hair);
  cursor: default;
}
.part:hover {
  background: var(--wash);
}
.focused {
  background: var(--wash);
  box-shadow: inset 3px 0 var(--tide);
}
.out .picture,
.out b {
  opacity: 0.45;
}
.picture {
  width: 40px;
  height: 40px;
  flex: none;
  border-radius: 3px;
  background: var(--stage) no-repeat;
}
.words {
  flex: 1;
  min-width: 0;
  display: grid;
}
.words b,
.words .soft {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.words b {
  font-weight: 500;
}
.words .soft {
  font-size: 12px;
}
.words em {
  font-style: normal;
  color: var(--caution);
}
.words input {
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--tide);
  border-radius: 3px;
  padding: 2px 4px;
}
.words input:invalid {
  border-color: var(--stop);
}
.number {
  width: 66px;
  text-align: right;
  color: var(--soft);
}
.places {
  width: 36px;
  text-align: right;
}
.quiet {
  padding: 4px 6px;
  opacity: 0;
}
.part:hover .quiet,
.quiet:focus-visible,
.focused .quiet {
  opacity: 1;
}
</style>
