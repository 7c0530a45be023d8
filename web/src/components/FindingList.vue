<script setup lang="ts">
import { computed } from 'vue'
import type { FindingView } from '../api/client'

/** Steps not done yet are many in the middle of a job: those past the first few wait behind a tap. */
const STEPS_IN_SIGHT = 4
const props = defineProps<{ findings: FindingView[] }>()
const KINDS = [
  { severity: 'blocks', title: 'Blocks the signature', mark: '✕', tone: 'stop' },
  { severity: 'open', title: 'Open, and will be listed on the record', mark: '○', tone: 'wait' },
  { severity: 'question', title: 'To be looked at', mark: '?', tone: 'wait' },
  { severity: 'note', title: 'Worth knowing', mark: '·', tone: 'go' },
] as const
const groups = computed(() =>
  KINDS.map((kind) => {
    const items = props.findings.filter((one) => one.severity === kind.severity)
    const steps = items.filter((one) => one.code === 'step_open')
    const away = new Set(steps.slice(STEPS_IN_SIGHT))
    return { ...kind, count: items.length, items: items.filter((one) => !away.has(one)), away }
  }).filter((group) => group.count),
)
</script>

<template>
  <div v-for="group in groups" :key="group.severity" class="notice" :class="group.tone">
    <div>
      <b>{{ group.title }} ({{ group.count }})</b>
      <ul>
        <li v-for="one in group.items" :key="one.code + one.subject + one.message">
          <span aria-hidden="true">{{ group.mark }}</span> {{ one.message }}
        </li>
      </ul>
      <details v-if="group.away.size">
        <summary>and {{ group.away.size }} more steps not done</summary>
        <ul>
          <li v-for="one in group.away" :key="one.code + one.subject + one.message">
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
