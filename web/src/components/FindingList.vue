<script setup lang="ts">
import FoldAway from './FoldAway.vue'
import { computed } from 'vue'
import type { FindingView } from '../api/client'

/** Steps not done yet are many in the middle of a job: those past the first few wait behind a tap. */
const STEPS_IN_SIGHT = 4
const props = defineProps<{ findings: FindingView[] }>()
const KINDS = [
  { severity: 'blocks', title: 'Blocks the signature', mark: '✕', tone: 'error' },
  { severity: 'open', title: 'Open, and will be listed on the record', mark: '○', tone: 'warning' },
  { severity: 'question', title: 'To be looked at', mark: '?', tone: 'warning' },
  { severity: 'note', title: 'Worth knowing', mark: '·', tone: 'success' },
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
  <el-alert
    v-for="group in groups"
    :key="group.severity"
    :type="group.tone"
    :title="`${group.title} (${group.count})`"
    :closable="false"
    role="note"
  >
    <ul class="pt-4px px-0 pb-0 m-0 list-none">
      <li
        v-for="one in group.items"
        :key="one.code + one.subject + one.message"
        class="py-2px px-0 c-ink"
      >
        <span aria-hidden="true">{{ group.mark }}</span> {{ one.message }}
      </li>
    </ul>
    <FoldAway v-if="group.away.size" :title="`and ${group.away.size} more steps not done`">
      <ul class="pt-4px px-0 pb-0 m-0 list-none">
        <li
          v-for="one in group.away"
          :key="one.code + one.subject + one.message"
          class="py-2px px-0 c-ink"
        >
          <span aria-hidden="true">{{ group.mark }}</span> {{ one.message }}
        </li>
      </ul>
    </FoldAway>
  </el-alert>
  <el-alert v-if="!groups.length" type="success" :closable="false" role="note"
    >✓ Nothing is open.</el-alert
  >
</template>
