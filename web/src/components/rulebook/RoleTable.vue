<script setup lang="ts">
import { computed } from 'vue'
import { textureRoles, type TextureRole } from '@stern-gate/contract'
import { useRulebook } from '../../stores/rulebook'
import LayoutTable from './LayoutTable.vue'

// Which words of a texture's name tell what it carries
const book = useRulebook()
const wordsOf = (role: TextureRole): string[] => book.draft?.roles[role].synonyms ?? []
/** Words that two roles claim: the first one has them. */
const twice = computed(() => {
  const seen = new Map<string, TextureRole>(),
    doubled = new Map<string, TextureRole>()
  for (const role of textureRoles)
    for (const word of [role, ...wordsOf(role)]) {
      if (seen.has(word) && seen.get(word) !== role) doubled.set(`${role} ${word}`, seen.get(word)!)
      else seen.set(word, role)
    }
  return doubled
})
function take(role: TextureRole, text: string): void {
  book.set(
    ['roles', role, 'synonyms'],
    [
      ...new Set(
        text
          .split(/[\s,]+/)
          .map((w) => w.toLowerCase())
          .filter((w) => w !== ''),
      ),
    ],
  )
}
const troubleOf = (role: TextureRole): string =>
  wordsOf(role)
    .flatMap((w) =>
      twice.value.has(`${role} ${w}`) ? [`“${w}” means ${twice.value.get(`${role} ${w}`)} already`] : [],
    )
    .join(', ')
</script>

<template>
  <div class="scroll">
    <p class="soft intro">
      Words count as whole parts of a name, the last telling one first:
      <span class="mono">crate_rusty_nrm</span> is a normal map.
    </p>
    <div v-for="role in textureRoles" :key="role" class="role">
      <b>{{ role }}</b>
      <select
        :value="book.draft?.roles[role].space"
        class="field"
        :aria-label="`Colour space of ${role}`"
        @change="book.set(['roles', role, 'space'], ($event.target as HTMLSelectElement).value)"
      >
        <option value="srgb">sRGB</option>
        <option value="linear">linear</option>
      </select>
      <input
        class="field mono words"
        :value="wordsOf(role).join(' ')"
        :aria-label="`Words for ${role}`"
        :data-role-words="role"
        spellcheck="false"
        @change="take(role, ($event.target as HTMLInputElement).value)"
      />
      <small v-if="troubleOf(role)" class="mistake">{{ troubleOf(role) }}</small>
    </div>
    <LayoutTable />
  </div>
</template>

<style scoped>
.scroll {
  overflow: auto;
  padding: 14px 18px 24px;
  flex: 1;
  min-height: 0;
}
.intro {
  margin-bottom: 12px;
}
.role {
  display: grid;
  grid-template-columns: 110px 90px minmax(0, 1fr);
  gap: 10px;
  align-items: center;
  padding: 5px 0;
  border-bottom: 1px solid var(--hair);
}
.role b {
  font-weight: 500;
}
.field {
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--sheet);
  padding: 4px 7px;
}
.words {
  font-size: 12px;
}
.mistake {
  grid-column: 3;
  color: var(--caution);
}
</style>
