<script setup lang="ts">
import { computed } from 'vue'
import type { FindingView } from '../api/client'

/** The first of a kind are in sight, the rest one tap away. */
const FIRST = 10
const props = defineProps<{ findings: FindingView[] }>()
const KINDS = [
  { severity: 'blocks', title: 'Blocks the signature', mark: '✕', tone: 'stop' },
  { severity: 'open', title: 'Open, and will be listed on the record', mark: '○', tone: 'wait' },
  { severity: 'question', title: 'To be looked at', mark: '?', tone: 'wait' },
  { severity: 'note', title: 'Worth knowing', mark: '·', tone: 'go' },
] as const
const groups = computed(() =>
  KINDS.map((kind) => ({
    ...kind,
    items: props.findings.filter((one) => one.severity === kind.severity),
  })).filter((group) => group.items.length),
)
</script>

<template>
  <div v-for="group in groups" :key="group.severity" class="notice" :class="group.tone">
    <div>
      <b>{{ group.title }} ({{ group.items.length }})</b>
      <ul>
        <li v-for="one in group.items.slice(0, FIRST)" :key="one.code + one.subject + one.message">
          <span aria-hidden="true">{{ group.mark }}</span> {{ one.message }}
        </li>
      </ul>
      <details v-if="group.items.length > FIRST">
        <summary>and {{ group.items.length - FIRST }} more</summary>
        <ul>
          <li v-for="one in group.items.slice(FIRST)" :key="one.code + one.subject + one.message">
            <span aria-hidden="true">{{ group.mark }}</span> {{ one.message }}
          </li>
        </ul>
      </details>
    </div>
  </div>
  <p v-if="!groups.length" class="notice go">✓ Nothing is open.</p>
</template>

<style scoped>
ul {
  padding: 4px 0 0;
  margin: 0;
  list-style: none;
}

summary {
  min-height: 44px;
  padding-top: 8px;
  font-weight: 600;
  cursor: pointer;
}

li {
  padding: 2px 0;
  color: var(--ink);
}
</style>
