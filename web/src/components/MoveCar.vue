<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import type { Position, Side } from '../api/client'
import { useActing } from '../composables/useActing'
import { useConsequences } from '../composables/useConsequences'
import { useJob } from '../stores/job'
import LostNotice from './LostNotice.vue'

const props = defineProps<{
  wanted?: { to: Position; corner: Side | null; axle?: string } | null
}>()
const store = useJob()
const { problem, busy, act } = useActing()
const { lost, ask, yes, no } = useConsequences()

interface Choice {
  to: Position
  corner: Side | null
  axle: 'front' | 'rear'
  words: string
}
const CARRIED = (['front', 'rear'] as const).flatMap((axle) =>
  (['left', 'right'] as const).map((corner) => ({
    to: 'corner_carried' as const,
    corner,
    axle,
    words: `${axle === 'front' ? 'Front' : 'Rear'} ${corner} carried`,
  })),
)
const choices: Choice[] = [
  { to: 'on_wheels', corner: null, axle: 'front', words: 'On its wheels' },
  { to: 'hanging', corner: null, axle: 'front', words: 'Hanging on stands' },
  ...CARRIED,
]
const isHere = (one: Choice) =>
  one.to === store.job!.position &&
  one.corner === store.job!.corner &&
  (!one.corner || one.axle === store.job!.carried_axle)

const isWanted = (one: Choice) =>
  props.wanted &&
  one.to === props.wanted.to &&
  one.corner === props.wanted.corner &&
  (!one.corner || one.axle === (props.wanted.axle || 'front'))

function move(one: Choice): void {
  const moved = { kind: 'moved' as const, to: one.to, corner: one.corner, axle: one.axle }
  void ask(moved, () => void act(moved))
}
</script>

<template>
  <div class="grid gap-6px" role="group" aria-label="Move the car">
    <span class="soft">The car is now</span>
    <div class="row grid grid-cols-[1fr_1fr] gap-8px">
      <button
        v-for="one in choices"
        :key="one.words"
        type="button"
        :class="{ on: isHere(one), wanted: isWanted(one) }"
        :aria-pressed="isHere(one)"
        :disabled="busy || isHere(one)"
        class="min-h-48px py-6px px-16px cursor-pointer bg-card edged-soft"
        @click="move(one)"
      >
        {{ one.words }}
      </button>
    </div>
    <LostNotice :lost="lost" @yes="yes" @no="no" />
    <RefusalNote :said="problem" />
  </div>
</template>

<style scoped>
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
</style>
