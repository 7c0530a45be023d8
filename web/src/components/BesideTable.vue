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
      <thead>
        <tr>
          <th></th>
          <th v-for="one in COLUMNS" :key="one.key">{{ one.label }}</th>
          <th>Missed by</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in readings" :key="row.label">
          <th>{{ row.label }}</th>
          <td v-for="one in COLUMNS" :key="one.key" class="figure" :data-label="one.label">
            {{ row[one.key] }}
          </td>
          <td class="figure" data-label="Missed by" :class="{ beyond: row.beyond }">
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
  thead {
    display: none;
  }

  tr {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 2px 14px;
    padding: 8px 0;
    border-bottom: 1px solid var(--line);
  }

  th {
    grid-column: 1 / -1;
  }

  th,
  td {
    padding: 0;
    border: 0;
  }

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
