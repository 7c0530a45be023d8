<script setup lang="ts">
import type { EntryView } from '../api/client'

defineProps<{
  entry: EntryView
  rows: Record<string, { text: string; unit: string }>[]
  name: string
}>()
const emit = defineEmits<{ drop: [place: number] }>()
const say = (row: Record<string, { text: string }>) =>
  Object.values(row)
    .map((typed) => typed.text)
    .join(' / ')
</script>

<template>
  <div class="readings">
    <ol v-if="rows.length > 1" :aria-label="`${name}: readings kept`">
      <li v-for="(row, place) in rows" :key="place">
        <span class="figure">{{ say(row) }}</span>
        <button
          type="button"
          :aria-label="`${name}: take reading ${place + 1} out`"
          @click="emit('drop', place)"
        >
          ✕
        </button>
      </li>
    </ol>
    <span v-if="entry.gauge" class="soft">with {{ entry.gauge }}</span>
    <span v-for="flag in entry.flags" :key="flag" class="wait">▲ {{ flag }}</span>
    <span v-if="entry.doubt" class="wait" role="status">
      ▲ {{ entry.doubt }} Read it a second time.
    </span>
  </div>
</template>

<style scoped>
.readings {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: center;
}

ol {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  padding: 0;
  margin: 0;
  list-style: none;
}

li {
  display: flex;
  align-items: center;
  padding-left: 10px;
  font-size: 20px;
  border: 1px solid var(--line);
  border-radius: var(--radius);
}

button {
  min-width: 44px;
  min-height: 44px;
  color: var(--soft);
  cursor: pointer;
  background: none;
  border: 0;
}

.wait {
  font-weight: 600;
  color: var(--wait);
}
</style>
