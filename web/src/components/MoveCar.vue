<script setup lang="ts">
import { computed } from 'vue'
import type { Position, Side } from '../api/client'
import { useActing } from '../composables/useActing'
import { useJob } from '../stores/job'

defineProps<{ wanted?: { to: Position; corner: Side | null } | null }>()
const store = useJob()
const { problem, busy, act } = useActing()

const CHOICES: { to: Position; corner: Side | null; words: string }[] = [
  { to: 'on_wheels', corner: null, words: 'On its wheels' },
  { to: 'hanging', corner: null, words: 'Hanging on stands' },
  { to: 'corner_carried', corner: 'left', words: 'Left corner carried' },
  { to: 'corner_carried', corner: 'right', words: 'Right corner carried' },
]
const here = computed(() => ({ to: store.job!.position, corner: store.job!.corner }))

function move(to: Position, corner: Side | null): void {
  void act({ kind: 'moved', to, corner })
}
</script>

<template>
  <div class="move" role="group" aria-label="Move the car">
    <span class="soft">The car is now</span>
    <div class="row">
      <button
        v-for="one in CHOICES"
        :key="one.words"
        type="button"
        :class="{
          on: one.to === here.to && one.corner === here.corner,
          wanted: wanted && one.to === wanted.to && one.corner === wanted.corner,
        }"
        :aria-pressed="one.to === here.to && one.corner === here.corner"
        :disabled="busy || (one.to === here.to && one.corner === here.corner)"
        @click="move(one.to, one.corner)"
      >
        {{ one.words }}
      </button>
    </div>
    <p v-if="problem" class="notice stop" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.move {
  display: grid;
  gap: 6px;
}

.row {
  gap: 8px;
}

button {
  min-height: 48px;
  padding: 6px 16px;
  cursor: pointer;
  background: var(--card);
  border: 1px solid var(--soft);
  border-radius: var(--radius);
}

button.on {
  color: var(--chalk);
  cursor: default;
  background: var(--band);
}

button.wanted:not(.on) {
  font-weight: 600;
  background: var(--wait-wash);
  border: 3px solid var(--brass);
}

@media (width <= 760px) {
  .row {
    display: grid;
    grid-template-columns: 1fr 1fr;
  }
}
</style>
