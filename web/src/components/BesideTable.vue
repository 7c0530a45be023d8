<script setup lang="ts">
import type { ExplainedView } from '../api/client'

defineProps<{ readings: ExplainedView['readings'] }>()
const COLUMNS = [
  { key: 'before', label: 'Before' },
  { key: 'wanted', label: 'Wanted' },
  { key: 'predicted', label: 'Predicted' },
  { key: 'measured', label: 'After' },
  { key: 'change', label: 'Changed by' },
] as const
</script>

<template>
  <section class="card stack" aria-label="Before and after">
    <h3>Before and after</h3>
    <table class="sheet-table">
      <thead class="lt-phone:hidden">
        <tr
          class="lt-phone:grid lt-phone:grid-cols-[1fr_1fr] lt-phone:gap-y-2px lt-phone:gap-x-14px lt-phone:py-8px lt-phone:px-0 lt-phone:b-b-1px lt-phone:b-b-solid lt-phone:b-b-line"
        >
          <th class="lt-phone:col-span-full lt-phone:p-0 lt-phone:b-0"></th>
          <th
            v-for="one in COLUMNS"
            :key="one.key"
            class="lt-phone:col-span-full lt-phone:p-0 lt-phone:b-0"
          >
            {{ one.label }}
          </th>
          <th class="lt-phone:col-span-full lt-phone:p-0 lt-phone:b-0">Missed by</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="row in readings"
          :key="row.label"
          class="lt-phone:grid lt-phone:grid-cols-[1fr_1fr] lt-phone:gap-y-2px lt-phone:gap-x-14px lt-phone:py-8px lt-phone:px-0 lt-phone:b-b-1px lt-phone:b-b-solid lt-phone:b-b-line"
        >
          <th class="lt-phone:col-span-full lt-phone:p-0 lt-phone:b-0">{{ row.label }}</th>
          <td
            v-for="one in COLUMNS"
            :key="one.key"
            class="figure lt-phone:p-0 lt-phone:b-0"
            :data-label="one.label"
          >
            {{ row[one.key] }}
          </td>
          <td
            class="figure lt-phone:p-0 lt-phone:b-0"
            data-label="Missed by"
            :class="{ beyond: row.beyond }"
          >
            {{ row.beyond ? '▲ ' : '' }}{{ row.miss }}
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.beyond {
  color: var(--stop);
}

@media (width <= 760px) {
  td:empty {
    display: none;
  }

  td::before {
    display: block;
    font: 16px var(--words);
    color: var(--soft);
    content: attr(data-label);
  }
}
</style>
