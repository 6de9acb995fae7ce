<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { countOf, formatCount } from '@stern-gate/core/numbers'
import LevelShape from '../../marks/LevelShape.vue'
import { useProject } from '../../stores/project'
import { useRulebook } from '../../stores/rulebook'

// What would happen if the change were saved, before it is
const book = useRulebook()
const project = useProject()
const router = useRouter()
const note = ref('')
const SHOWN = 14
const next = computed(() => (book.reply?.revision ?? 0) + 1)
const isQuiet = computed(
  () =>
    book.effect !== null && book.effect.held + book.effect.clear + book.effect.more + book.effect.fewer === 0,
)
async function save(): Promise<void> {
  if (await book.save(note.value)) note.value = ''
}
const open = (asset: string): void =>
  void router.push({ name: 'bench', params: { project: project.openId, asset } })
</script>

<template>
  <section class="band" role="region" aria-label="If this were saved" data-band>
    <div class="head">
      <h2>If this were saved</h2>
      <p class="soft">
        <template v-if="book.asking">judging …</template>
        <template v-else-if="book.effect"
          >{{ countOf(book.effect.assets, 'asset') }} judged again in
          {{ (book.effect.milliseconds / 1000).toFixed(1) }} s</template
        >
      </p>
      <ul v-if="book.effect" class="soft diffs">
        <li v-for="d in book.effect.differences.slice(0, 3)" :key="d" :title="d">{{ d }}</li>
        <li v-if="book.effect.differences.length > 3">and {{ book.effect.differences.length - 3 }} more</li>
      </ul>
    </div>
    <div class="what">
      <p v-if="book.mistake" class="mistake" role="alert">{{ book.mistake }}</p>
      <template v-else-if="book.effect">
        <p class="sums" :class="{ waits: book.asking }">
          <span v-if="book.effect.held > 0"
            ><LevelShape state="stop" /> {{ countOf(book.effect.held, 'asset') }} become{{
              book.effect.held === 1 ? 's' : ''
            }}
            held</span
          >
          <span v-if="book.effect.clear > 0"
            ><LevelShape state="clear" /> {{ countOf(book.effect.clear, 'asset') }} become{{
              book.effect.clear === 1 ? 's' : ''
            }}
            clear</span
          >
          <span v-if="book.effect.more > 0"
            ><LevelShape state="caution" /> {{ countOf(book.effect.more, 'asset') }} get{{
              book.effect.more === 1 ? 's' : ''
            }}
            more findings</span
          >
          <span v-if="book.effect.fewer > 0"
            >{{ countOf(book.effect.fewer, 'asset') }} lose{{ book.effect.fewer === 1 ? 's' : '' }} some</span
          >
          <span v-if="isQuiet">no verdict and no number of findings changes</span>
        </p>
        <div class="names">
          <button
            v-for="c in book.effect.changed.slice(0, SHOWN)"
            :key="c.id"
            class="name"
            :title="c.words"
            @click="open(c.id)"
          >
            <LevelShape :state="c.was === c.now ? 'note' : c.now === 'held' ? 'stop' : 'clear'" />{{ c.name }}
          </button>
          <span
            v-if="book.effect.held + book.effect.clear + book.effect.more + book.effect.fewer > SHOWN"
            class="soft"
            >+
            {{
              formatCount(book.effect.held + book.effect.clear + book.effect.more + book.effect.fewer - SHOWN)
            }}</span
          >
        </div>
      </template>
    </div>
    <div class="do">
      <input
        v-model="note"
        class="field"
        :placeholder="`Why, for revision ${next} …`"
        aria-label="Why"
        maxlength="300"
        @keydown.enter="save"
      />
      <div class="buttons">
        <button class="btn" data-leave @click="book.leave()">Leave it as it was</button>
        <button class="btn go" data-save :disabled="book.mistake !== null || book.saving" @click="save">
          {{ book.saving ? 'Saving …' : `Save revision ${next}` }}
        </button>
      </div>
    </div>
  </section>
</template>

<style scoped>
.band {
  display: grid;
  grid-template-columns: 250px minmax(0, 1fr) 280px;
  gap: 18px;
  padding: 12px 18px;
  border-top: 2px solid var(--tide);
  background: var(--sheet);
  min-height: 112px;
  flex: none;
}
h2 {
  font: 600 14px/1.3 var(--text);
}
.diffs {
  list-style: none;
  padding: 0;
  margin-top: 5px;
  font-size: 11.5px;
}
.diffs li {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.sums {
  display: flex;
  gap: 18px;
  flex-wrap: wrap;
  font-weight: 500;
  margin-bottom: 8px;
}
.sums span {
  display: inline-flex;
  gap: 6px;
  align-items: center;
}
.waits {
  opacity: 0.5;
}
.names {
  display: flex;
  gap: 6px;
  flex-wrap: wrap;
  max-height: 58px;
  overflow: hidden;
}
.name {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--paper);
  padding: 2px 8px;
  font: 12px/1.4 var(--mono);
  cursor: pointer;
}
.mistake {
  color: var(--stop);
  font-weight: 500;
}
.field {
  width: 100%;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--paper);
  padding: 5px 8px;
}
.buttons {
  display: flex;
  gap: 8px;
  justify-content: flex-end;
  margin-top: 8px;
}
</style>
