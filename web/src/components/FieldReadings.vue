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
  <div class="flex flex-wrap gap-y-4px gap-x-14px items-center">
    <ol
      v-if="rows.length > 1"
      :aria-label="`${name}: readings kept`"
      class="flex flex-wrap gap-6px bare-list"
    >
      <li
        v-for="(row, place) in rows"
        :key="place"
        class="flex items-center pl-10px text-20px edged"
      >
        <span class="figure">{{ say(row) }}</span>
        <button
          type="button"
          :aria-label="`${name}: take reading ${place + 1} out`"
          class="min-w-44px min-h-44px c-soft bare-button"
          @click="emit('drop', place)"
        >
          ✕
        </button>
      </li>
    </ol>
    <span v-if="entry.gauge" class="soft">with {{ entry.gauge }}</span>
    <span v-for="flag in entry.flags" :key="flag" class="font-600 c-wait">▲ {{ flag }}</span>
    <span v-if="entry.doubt" class="font-600 c-wait" role="status">
      ▲ {{ entry.doubt }} Read it a second time.
    </span>
  </div>
</template>
