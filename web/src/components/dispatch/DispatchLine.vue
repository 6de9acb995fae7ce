<script setup lang="ts">
import type { Dispatch } from '@stern-gate/contract'
import { countOf, formatCount } from '@stern-gate/core/numbers'
import { creditsAddress, packageAddress } from '../../api/client'
import { bytesText, whenText } from '../../words/formats'

// One package that left, is being packed, or could not be made
defineProps<{ dispatch: Dispatch; open: boolean }>()
defineEmits<{ look: [] }>()
</script>

<template>
  <div class="line" :class="{ open }" :data-dispatch="dispatch.number">
    <button class="who" :aria-expanded="open" @click="$emit('look')">
      <b class="mono">{{ dispatch.number }}</b>
      <span class="what"
        ><span
          >{{ dispatch.target }}<template v-if="dispatch.note"> · {{ dispatch.note }}</template></span
        ><small class="soft">{{ dispatch.by }} · {{ whenText(dispatch.created) }}</small></span
      >
    </button>
    <span v-if="dispatch.state === 'done'" class="soft narrow counts"
      >{{ countOf(dispatch.assets, 'asset') }}, {{ countOf(dispatch.files, 'file')
      }}<template v-if="dispatch.held > 0">; {{ formatCount(dispatch.held) }} stayed</template></span
    >
    <span v-else-if="dispatch.state === 'failed'" class="failed narrow counts" :title="dispatch.fault?.why"
      >not made: {{ dispatch.fault?.why }}</span
    >
    <span v-else class="soft narrow counts" role="status"
      >{{
        dispatch.total === 0
          ? 'waits to be packed'
          : dispatch.packed < dispatch.total
            ? `${formatCount(dispatch.packed)} of ${formatCount(dispatch.total)} looked at`
            : 'writing the package'
      }}<i
        class="bar"
        role="progressbar"
        aria-label="Packing"
        aria-valuemin="0"
        :aria-valuemax="dispatch.total"
        :aria-valuenow="dispatch.packed"
        ><b :style="{ width: `${(dispatch.packed / Math.max(1, dispatch.total)) * 100}%` }" /></i
    ></span>
    <span v-if="dispatch.state === 'done'" class="credits narrow"
      >Credits <a :href="creditsAddress(dispatch.id, 'md')" data-credits>Markdown</a>
      <a :href="creditsAddress(dispatch.id, 'csv')">CSV</a></span
    >
    <a
      v-if="dispatch.state === 'done'"
      class="btn"
      :href="packageAddress(dispatch.id)"
      :download="`dispatch-${dispatch.number}-${dispatch.target}.zip`"
      >Download {{ bytesText(dispatch.sizeBytes ?? 0) }}</a
    >
  </div>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto auto;
  gap: 12px;
  align-items: center;
  padding: 6px 18px;
  border-bottom: 1px solid var(--hair);
}
.line.open {
  background: var(--wash);
}
.who {
  display: grid;
  grid-template-columns: 34px minmax(0, 1fr);
  align-items: center;
  text-align: left;
  background: none;
  border: 0;
  padding: 0;
  cursor: pointer;
}
.what {
  display: grid;
  min-width: 0;
}
.what span {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.what small {
  font-size: 12px;
}
.counts {
  max-width: 260px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.failed {
  color: var(--stop);
}
.bar {
  display: inline-block;
  width: 90px;
  height: 6px;
  margin-left: 8px;
  background: var(--hair);
}
.bar b {
  display: block;
  height: 100%;
  background: var(--tide);
  transition: width 0.25s;
}
a.btn {
  text-decoration: none;
}
.credits {
  font-size: 12px;
  color: var(--soft);
}
.credits a + a {
  margin-left: 6px;
}
</style>
