<script setup lang="ts">
import { computed, ref } from 'vue'
import { NSelect } from 'naive-ui'
import { formatCount } from '@stern-gate/core/numbers'
import { useDispatch } from '../../stores/dispatch'
import { useProject } from '../../stores/project'
import LeftBehindList from './LeftBehindList.vue'

// What the next package is made of, for which target, and what would stay behind
const project = useProject()
const dispatch = useDispatch()
const note = ref(''),
  encode = ref(false)
const target = computed(() => dispatch.target ?? project.open?.target ?? null)
const targets = computed(() =>
  (project.open?.targets ?? []).map(({ id, title }) => ({ value: id, label: title })),
)
const count = (n: number): string => `${formatCount(n)} ${n === 1 ? 'asset' : 'assets'}`
async function pack(): Promise<void> {
  await dispatch.pack(note.value.trim(), encode.value)
  note.value = ''
}
</script>

<template>
  <section class="next" aria-label="Next dispatch">
    <form class="choice" @submit.prevent="pack">
      <label
        ><span>Target</span
        ><NSelect
          size="small"
          :value="target"
          :options="targets"
          :input-props="{ 'aria-label': 'Target' }"
          @update:value="(id: string) => dispatch.aim(id)"
      /></label>
      <label class="note"
        ><span>Note</span
        ><input v-model="note" class="field" maxlength="400" placeholder="what it is for" aria-label="Note"
      /></label>
      <button
        class="btn go"
        type="submit"
        :disabled="dispatch.busy || !dispatch.plan || dispatch.plan.clear === 0"
      >
        {{ dispatch.plan ? `Pack ${count(dispatch.plan.clear)}` : 'Pack' }}
      </button>
      <label class="encode"
        ><input v-model="encode" type="checkbox" data-encode />
        <span
          >Textures as {{ targets.find((t) => t.value === target)?.label ?? 'the target' }} stores them, too
          (KTX2, all mips, beside their sources)</span
        ></label
      >
    </form>
    <p class="of">
      <template v-if="dispatch.chosen">
        Made of {{ count(dispatch.chosen.length) }} that
        {{ dispatch.chosen.length === 1 ? 'was' : 'were' }} chosen.
        <button class="btn" type="button" @click="dispatch.choose(null)">Take all of the project</button>
      </template>
      <template v-else
        >Made of every asset of the project; choose some in Assets to take only those.</template
      >
    </p>
    <template v-if="dispatch.plan">
      <p v-if="dispatch.plan.clear === 0" class="soft" role="status">
        Nothing is clear{{ dispatch.chosen ? ' among these' : '' }}; there is nothing to pack.
      </p>
      <p v-if="dispatch.plan.elsewhere > 0" class="soft">
        {{ count(dispatch.plan.elsewhere) }} of these
        {{ dispatch.plan.elsewhere === 1 ? 'is' : 'are' }} judged for another target; packing judges
        {{ dispatch.plan.elsewhere === 1 ? 'it' : 'them' }} for this one.
      </p>
      <p v-if="dispatch.plan.waiting > 0" class="soft">{{ count(dispatch.plan.waiting) }} not judged yet.</p>
      <LeftBehindList
        v-if="dispatch.plan.leftBehind.length > 0"
        :rows="dispatch.plan.leftBehind"
        :total="dispatch.plan.held + dispatch.plan.waiting"
        title="Would stay behind"
      />
    </template>
    <p v-else class="soft" role="status">Looking at what is clear …</p>
  </section>
</template>

<style scoped>
.next {
  display: flex;
  flex-direction: column;
  gap: 10px;
  padding: 14px 18px;
  min-height: 0;
  border-right: 1px solid var(--line);
}
.choice {
  display: grid;
  grid-template-columns: 160px minmax(0, 1fr) auto;
  gap: 10px;
  align-items: end;
}
label:not(.encode) span {
  display: block;
  font: 600 12px/1 var(--narrow);
  color: var(--soft);
  margin-bottom: 5px;
}
.field {
  width: 100%;
  height: 28px;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--sheet);
  padding: 3px 8px;
}
label.encode {
  grid-column: 1 / -1;
  display: flex;
  gap: 7px;
  align-items: center;
  font-size: 12.5px;
}
.choice .btn {
  height: 28px;
}
</style>
